-- +goose Up
-- What was thrown away after a service, and why. Rows are only added: one when it is said, one when that is taken back.
CREATE TABLE thrown (
    number   bigint      GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    id       text        NOT NULL UNIQUE, -- made by the screen: the same sent twice counts once
    service  text        NOT NULL,
    kind     text        NOT NULL,        -- 'dish' or 'component'
    about    text        NOT NULL,        -- its id
    portions int         NOT NULL CHECK (portions > 0),
    why      text        NOT NULL,        -- 'too-much', 'spoilt', 'dropped', 'overdone', 'came-back', 'other'
    words    text        NOT NULL,
    person   text        NOT NULL,
    at       timestamptz NOT NULL
);
CREATE INDEX thrown_service ON thrown (service);
CREATE TABLE thrown_undone (
    number bigint      PRIMARY KEY REFERENCES thrown (number),
    person text        NOT NULL,
    at     timestamptz NOT NULL
);
-- +goose StatementBegin
CREATE FUNCTION thrown_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'what was thrown away is only added to';
END $$;
-- +goose StatementEnd
CREATE TRIGGER thrown_stays BEFORE UPDATE OR DELETE ON thrown FOR EACH ROW EXECUTE FUNCTION thrown_stays();
CREATE TRIGGER thrown_undone_stays BEFORE UPDATE OR DELETE ON thrown_undone FOR EACH ROW EXECUTE FUNCTION thrown_stays();

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
