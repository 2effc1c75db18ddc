-- +goose Up
-- The maker's own inks and papers; one that is put away is hidden.
CREATE TABLE materials (
    what   TEXT NOT NULL,              -- ink or paper
    name   TEXT NOT NULL,
    hidden INTEGER NOT NULL DEFAULT 0,
    doc    TEXT NOT NULL,              -- JSON
    PRIMARY KEY (what, name)
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE materials;
