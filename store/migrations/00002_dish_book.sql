-- +goose Up
-- Dishes have a state, changes say who made them, dishes may have a photograph, and
-- services are records like the others.
ALTER TABLE record DROP CONSTRAINT record_kind_check;
ALTER TABLE record ADD CONSTRAINT record_kind_check
    CHECK (kind IN ('kitchen', 'section', 'person', 'equipment', 'vessel', 'component', 'dish', 'service'));
ALTER TABLE record_history ADD COLUMN person text NOT NULL DEFAULT '';

UPDATE record SET body = jsonb_set(body, '{state}', '"current"') WHERE kind = 'dish' AND body -> 'state' IS NULL;
UPDATE record_history SET body = jsonb_set(body, '{state}', '"current"') WHERE kind = 'dish' AND body -> 'state' IS NULL;

-- Rows are only added: the newest of a dish counts, and one without a picture says that
-- it was taken off.
CREATE TABLE photograph (
    number   bigint      GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    dish     text        NOT NULL,
    jpeg     bytea,
    person   text        NOT NULL,
    added_at timestamptz NOT NULL
);
CREATE INDEX photograph_dish ON photograph (dish, number DESC);

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
