-- +goose Up
-- Told plans are records. What they were made from is kept once for all plans that were
-- made from the same. Rows are only added.
CREATE TABLE plan_inputs (
    hash text  PRIMARY KEY,
    data json  NOT NULL
);

CREATE TABLE plan (
    subject  text        NOT NULL,
    number   bigint      NOT NULL CHECK (number > 0),
    made_at  timestamptz NOT NULL,
    kind     text        NOT NULL,
    said     text        NOT NULL,
    inputs   text        NOT NULL REFERENCES plan_inputs (hash),
    versions json        NOT NULL,
    workload json        NOT NULL,
    schedule json        NOT NULL,
    refs     json        NOT NULL,
    details  json        NOT NULL,
    PRIMARY KEY (subject, number)
);

-- What became of a told plan: printed, settled.
CREATE TABLE plan_mark (
    number  bigint      GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    subject text        NOT NULL,
    plan    bigint      NOT NULL,
    mark    text        NOT NULL CHECK (mark IN ('settled', 'printed')),
    at      timestamptz NOT NULL,
    person  text        NOT NULL,
    FOREIGN KEY (subject, plan) REFERENCES plan (subject, number)
);
CREATE INDEX plan_mark_subject ON plan_mark (subject, plan);

-- What a tick is about stands beside the name of the run. The first run of a step has the
-- same name whether others follow it or not: it was numbered where several did.
ALTER TABLE tick ADD COLUMN batch text NOT NULL DEFAULT '';
UPDATE tick SET batch = split_part(task, '#', 1);
UPDATE tick SET task = left(task, -2) WHERE task LIKE '%#%.1';
ALTER TABLE tick ALTER COLUMN batch DROP DEFAULT;
CREATE INDEX tick_at ON tick (at);

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
