-- +goose Up
-- What thermometers said in a service, beside its log: a reading every two seconds would drown what people say. Rows are only added.
CREATE TABLE probe_reading (
    service     text             NOT NULL,
    task        text             NOT NULL,
    device      text             NOT NULL,
    at          timestamptz      NOT NULL,
    celsius     double precision NOT NULL,
    received_at timestamptz      NOT NULL,
    PRIMARY KEY (service, task, device, at)
);
-- +goose StatementBegin
CREATE FUNCTION probe_reading_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'what a thermometer said is only added to';
END $$;
-- +goose StatementEnd
CREATE TRIGGER probe_reading_stays BEFORE UPDATE OR DELETE ON probe_reading
    FOR EACH ROW EXECUTE FUNCTION probe_reading_stays();

-- +goose Down
SELECT 1 / 0; -- migrations only go forward
