-- +goose Up
-- The clock of the demo, which has one of its own: how far it has come, and whether it goes with the wall's. A real kitchen has no row.
CREATE TABLE demo_clock (
    one     boolean     PRIMARY KEY DEFAULT true CHECK (one),
    begins  timestamptz NOT NULL, -- the hour at which the demo opens, on its day
    reached timestamptz NOT NULL,
    real    boolean     NOT NULL
);

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
