-- +goose Up
-- Pictures lie beside the subjects that describe them, so that the journal stays small. A picture is written in the
-- transaction that adds its subject, and stays when that is removed, for whoever takes the removal back.
CREATE TABLE photos (
    job     TEXT NOT NULL REFERENCES jobs (id),
    id      TEXT NOT NULL,
    picture BLOB NOT NULL, -- JPEG
    thumb   BLOB NOT NULL, -- JPEG
    PRIMARY KEY (job, id)
) STRICT;

-- +goose Down
DROP TABLE photos;
