-- +goose Up
-- What the maker says of an image that is kept in the library ("sample").
ALTER TABLE images ADD COLUMN kind  TEXT NOT NULL DEFAULT 'line';
ALTER TABLE images ADD COLUMN mount TEXT NOT NULL DEFAULT '';
ALTER TABLE images ADD COLUMN notes TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE images DROP COLUMN notes;
ALTER TABLE images DROP COLUMN mount;
ALTER TABLE images DROP COLUMN kind;
