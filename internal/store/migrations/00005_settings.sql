-- +goose Up
-- The settings are a document too, of which there is one. A check cannot be changed in
-- place: both tables are made anew, revisions first so that nothing is lost when the
-- old documents go.
CREATE TABLE documents_new (
    id    INTEGER PRIMARY KEY,
    kind  TEXT NOT NULL CHECK (kind IN ('card', 'paper', 'settings')),
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
    doc      TEXT NOT NULL,           -- the document's JSON
    made     INTEGER NOT NULL,
    PRIMARY KEY (document, seq)
) STRICT, WITHOUT ROWID;
INSERT INTO revisions_new SELECT document, seq, parent, what, doc, made FROM revisions;
DROP TABLE revisions;
DROP TABLE documents;
ALTER TABLE documents_new RENAME TO documents;
ALTER TABLE revisions_new RENAME TO revisions;
CREATE UNIQUE INDEX one_of_its_kind ON documents (kind) WHERE kind IN ('paper', 'settings');

-- +goose Down
DELETE FROM documents WHERE kind = 'settings';
DROP INDEX one_of_its_kind;
CREATE UNIQUE INDEX one_paper ON documents (kind) WHERE kind = 'paper';
