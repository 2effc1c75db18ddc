-- +goose Up
-- The shelf, the library and the tests have revisions too, each of which holds the rows
-- it changed. What kinds of documents there are is known to the program alone, so that
-- the next kind needs no new table.
CREATE TABLE documents_new (
    id    INTEGER PRIMARY KEY,
    kind  TEXT NOT NULL,              -- card, or one of what there is one of
    head  INTEGER NOT NULL,           -- the revision that is shown
    state TEXT NOT NULL DEFAULT 'shown' CHECK (state IN ('shown', 'archived', 'deleted')),
    made  INTEGER NOT NULL
) STRICT;
INSERT INTO documents_new SELECT id, kind, head, state, made FROM documents;
CREATE TABLE revisions_new (
    document INTEGER NOT NULL REFERENCES documents_new(id) ON DELETE CASCADE,
    seq      INTEGER NOT NULL,        -- from 1, never reused
    parent   INTEGER NOT NULL,        -- seq of the revision it was made from, 0 for the first
    what     TEXT NOT NULL,           -- the change in a few words
    doc      TEXT NOT NULL,           -- the document's JSON, or the rows changed
    made     INTEGER NOT NULL,
    PRIMARY KEY (document, seq)
) STRICT, WITHOUT ROWID;
INSERT INTO revisions_new SELECT document, seq, parent, what, doc, made FROM revisions;
DROP TABLE revisions;
DROP TABLE documents;
ALTER TABLE documents_new RENAME TO documents;
ALTER TABLE revisions_new RENAME TO revisions;
CREATE UNIQUE INDEX one_of_its_kind ON documents (kind) WHERE kind <> 'card';

-- Devices that may come in over the network; what they show is kept as its hash only.
CREATE TABLE devices (
    id    INTEGER PRIMARY KEY,
    name  TEXT NOT NULL,
    token TEXT NOT NULL UNIQUE,       -- SHA-256 of what the device keeps, hexadecimal
    made  INTEGER NOT NULL,           -- Unix seconds
    seen  INTEGER NOT NULL            -- last, Unix seconds
) STRICT;
-- What is asked of those who come in over the network, of which there is one.
CREATE TABLE passphrase (
    id   INTEGER PRIMARY KEY CHECK (id = 1),
    hash TEXT NOT NULL                -- how it was made, salt and key
) STRICT;

-- +goose Down
DROP TABLE passphrase;
DROP TABLE devices;
DROP INDEX one_of_its_kind;
DELETE FROM documents WHERE kind NOT IN ('card', 'paper', 'settings');
CREATE UNIQUE INDEX one_of_its_kind ON documents (kind) WHERE kind IN ('paper', 'settings');
