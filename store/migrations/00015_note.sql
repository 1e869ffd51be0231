-- +goose Up
-- Notes of the night. Rows are only added: one when it is written, one when it is put away.
CREATE TABLE note (
    number  bigint      GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    id      text        NOT NULL UNIQUE, -- made by the screen: the same note sent twice counts once
    service text        NOT NULL,        -- of the night that it is of
    kind    text        NOT NULL,        -- what it is about: 'dish', 'component', 'group', or '' for the night
    about   text        NOT NULL,        -- its id; a group by its name
    body    text        NOT NULL,
    person  text        NOT NULL,
    at      timestamptz NOT NULL
);
CREATE INDEX note_about ON note (kind, about);
CREATE TABLE note_done (
    number bigint      PRIMARY KEY REFERENCES note (number),
    person text        NOT NULL,
    at     timestamptz NOT NULL
);
-- +goose StatementBegin
CREATE FUNCTION note_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'notes are only added to';
END $$;
-- +goose StatementEnd
CREATE TRIGGER note_stays BEFORE UPDATE OR DELETE ON note FOR EACH ROW EXECUTE FUNCTION note_stays();
CREATE TRIGGER note_done_stays BEFORE UPDATE OR DELETE ON note_done FOR EACH ROW EXECUTE FUNCTION note_stays();

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
