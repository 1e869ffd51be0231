-- +goose Up
-- What an officer asks for: temperatures with who and when. Lines are only added; a wrong one is corrected by another. Their numbers
-- have no gaps, so that nobody asks where a line is.
CREATE TABLE safety_log (
    number   bigint           PRIMARY KEY,
    id       uuid             NOT NULL UNIQUE,
    kind     text             NOT NULL CHECK (kind IN ('core', 'cooling', 'holding', 'cold', 'delivery', 'probe')),
    what     text             NOT NULL,
    ref      text             NOT NULL,
    subject  text             NOT NULL,
    celsius  double precision,
    run      bigint           REFERENCES safety_log (number),
    note     text             NOT NULL,
    person   text             NOT NULL CHECK (person <> ''),
    at       timestamptz      NOT NULL,
    written  timestamptz      NOT NULL,
    corrects bigint           REFERENCES safety_log (number)
);
CREATE INDEX safety_log_at ON safety_log (at);

-- +goose StatementBegin
CREATE FUNCTION only_added_to() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'this log is only added to';
END $$;
-- +goose StatementEnd
CREATE TRIGGER safety_log_only_added BEFORE UPDATE OR DELETE ON safety_log
    FOR EACH ROW EXECUTE FUNCTION only_added_to();

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
