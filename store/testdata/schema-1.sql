PRAGMA foreign_keys=OFF;
BEGIN TRANSACTION;
CREATE TABLE goose_db_version (
		id INTEGER PRIMARY KEY AUTOINCREMENT,
		version_id INTEGER NOT NULL,
		is_applied INTEGER NOT NULL,
		tstamp TIMESTAMP DEFAULT (datetime('now'))
	);
INSERT INTO goose_db_version VALUES(1,0,1,'2026-11-25 00:06:53');
INSERT INTO goose_db_version VALUES(2,1,1,'2026-11-25 00:06:53');
CREATE TABLE jobs (
    id       TEXT PRIMARY KEY,
    revision INTEGER NOT NULL,
    created  INTEGER NOT NULL, -- Unix milliseconds, UTC
    changed  INTEGER NOT NULL,
    deleted  INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO jobs VALUES('j1',2,1790000000000,1790000000000,0);
CREATE TABLE subjects (
    job     TEXT NOT NULL REFERENCES jobs (id),
    name    TEXT NOT NULL,
    body    TEXT NOT NULL CHECK (json_valid(body)),
    version INTEGER NOT NULL, -- the revision of the job that wrote it
    PRIMARY KEY (job, name)
) STRICT, WITHOUT ROWID;
INSERT INTO subjects VALUES('j1','decision/from/A/1','{"side":"from","at":{"connector":"A","cavity":"1"},"choice":"goes"}',2);
INSERT INTO subjects VALUES('j1','job','{"title":"Sorrel refit","kind":"re-pinned","donor":"Tarn Sorrel","chassis":"Tarn Sorrel"}',1);
INSERT INTO subjects VALUES('j1','table/from','{"name":"VK-1","trust":"maker","cells":[["Connector","Cavity","Function"],["A","1","Injector 1 \u003c\u0026\u003e"]],"options":{}}',1);
CREATE TABLE journal (
    seq      INTEGER PRIMARY KEY,
    id       TEXT NOT NULL UNIQUE,
    job      TEXT NOT NULL REFERENCES jobs (id),
    revision INTEGER NOT NULL,
    who      TEXT NOT NULL,
    at       INTEGER NOT NULL, -- Unix milliseconds, UTC
    what     TEXT NOT NULL,
    reason   TEXT NOT NULL,
    payload  INTEGER NOT NULL, -- version of the form of changes
    changes  TEXT NOT NULL CHECK (json_valid(changes)), -- subjects with their bodies before and after
    undoes   INTEGER REFERENCES journal (seq),
    undone   INTEGER REFERENCES journal (seq)
) STRICT;
INSERT INTO journal VALUES(1,'create-1','j1',1,'Ines',1790000000000,'create','',1,'[{"subject":"job","after":{"title":"Sorrel refit","kind":"re-pinned","donor":"Tarn Sorrel","chassis":"Tarn Sorrel"}},{"subject":"table/from","after":{"name":"VK-1","trust":"maker","cells":[["Connector","Cavity","Function"],["A","1","Injector 1 \u003c\u0026\u003e"]],"options":{}}}]',NULL,NULL);
INSERT INTO journal VALUES(2,'d1','j1',2,'Ines',1790000000000,'decide','',1,'[{"subject":"decision/from/A/1","after":{"side":"from","at":{"connector":"A","cavity":"1"},"choice":"goes"}}]',NULL,NULL);
CREATE INDEX journal_by_job ON journal (job, seq);
COMMIT;
