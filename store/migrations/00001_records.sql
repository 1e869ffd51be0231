-- +goose Up
-- One row for each thing that a person edits: the house, sections, people,
-- equipment, vessels, components, dishes. The body is the thing itself, as
-- package kitchen has it and has checked it.
CREATE TABLE record (
    kind       text        NOT NULL CHECK (kind IN ('kitchen', 'section', 'person', 'equipment', 'vessel', 'component', 'dish')),
    id         text        NOT NULL,
    version    bigint      NOT NULL CHECK (version > 0),
    position   integer     NOT NULL,
    body       jsonb       NOT NULL,
    changed_at timestamptz NOT NULL,
    PRIMARY KEY (kind, id)
);

-- Every version that ever was, the current one too. Rows are only added.
CREATE TABLE record_history (
    kind       text        NOT NULL,
    id         text        NOT NULL,
    version    bigint      NOT NULL,
    body       jsonb       NOT NULL,
    changed_at timestamptz NOT NULL,
    said       text        NOT NULL,
    PRIMARY KEY (kind, id, version)
);

-- What refers to what, so that nothing in use can be deleted.
CREATE TABLE record_reference (
    from_kind text NOT NULL,
    from_id   text NOT NULL,
    to_kind   text NOT NULL,
    to_id     text NOT NULL,
    PRIMARY KEY (from_kind, from_id, to_kind, to_id),
    FOREIGN KEY (from_kind, from_id) REFERENCES record (kind, id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (to_kind, to_id) REFERENCES record (kind, id) DEFERRABLE INITIALLY DEFERRED
);
CREATE INDEX record_reference_to ON record_reference (to_kind, to_id);

-- The single row that every writer locks first: writes follow one another, and
-- readers know by its number whether anything changed.
CREATE TABLE revision (
    one    boolean PRIMARY KEY DEFAULT true CHECK (one),
    number bigint  NOT NULL
);
INSERT INTO revision (number) VALUES (0);

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
