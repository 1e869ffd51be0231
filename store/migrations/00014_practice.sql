-- +goose Up
-- Who trained at what, or watched it, and how it went. What happened in it stands in the log of services under the same id. Rows are only
-- added: one when it begins, one when it has ended.
CREATE TABLE practice (
    id       text        PRIMARY KEY,
    service  text        NOT NULL,
    section  text        NOT NULL, -- '' for one that is only watched
    person   text        NOT NULL, -- by name, '' where nobody said
    exercise text        NOT NULL, -- '' for none
    body     jsonb       NOT NULL,
    began_at timestamptz NOT NULL
);
CREATE INDEX practice_person ON practice (person, began_at);
CREATE TABLE practice_result (
    id       text        PRIMARY KEY REFERENCES practice (id),
    mark     integer     NOT NULL,
    body     jsonb       NOT NULL,
    ended_at timestamptz NOT NULL
);
-- +goose StatementBegin
CREATE FUNCTION practice_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'what was trained is only added to';
END $$;
-- +goose StatementEnd
CREATE TRIGGER practice_stays BEFORE UPDATE OR DELETE ON practice FOR EACH ROW EXECUTE FUNCTION practice_stays();
CREATE TRIGGER practice_result_stays BEFORE UPDATE OR DELETE ON practice_result FOR EACH ROW EXECUTE FUNCTION practice_stays();

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
