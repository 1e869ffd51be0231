-- +goose Up
-- Products on hand are records like the others. What was ticked off in the prep plan is
-- only ever added to: the newest tick of a step counts.
ALTER TABLE record DROP CONSTRAINT record_kind_check;
ALTER TABLE record ADD CONSTRAINT record_kind_check
    CHECK (kind IN ('kitchen', 'section', 'person', 'equipment', 'vessel', 'component', 'dish', 'service', 'stock'));

CREATE TABLE tick (
    number  bigint           GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    task    text             NOT NULL,
    done    boolean          NOT NULL,
    amount  double precision,
    tasted  boolean          NOT NULL,
    note    text             NOT NULL,
    person  text             NOT NULL,
    at      timestamptz      NOT NULL
);
CREATE INDEX tick_task ON tick (task, number DESC);

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
