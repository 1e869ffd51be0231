-- +goose Up
-- One meal from zero is a record like the others.
ALTER TABLE record DROP CONSTRAINT record_kind_check;
ALTER TABLE record ADD CONSTRAINT record_kind_check
    CHECK (kind IN ('kitchen', 'section', 'person', 'equipment', 'vessel', 'component', 'dish', 'service', 'stock', 'meal'));
