-- +goose Up
-- What a plan changed is kept as a message too, with its facts, so that it can be said in another language. Plans told
-- before have only their sentence.
ALTER TABLE plan ADD COLUMN message json;
