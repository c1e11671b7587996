PRAGMA foreign_keys=OFF;
BEGIN TRANSACTION;
CREATE TABLE goose_db_version (
		id INTEGER PRIMARY KEY AUTOINCREMENT,
		version_id INTEGER NOT NULL,
		is_applied INTEGER NOT NULL,
		tstamp TIMESTAMP DEFAULT (datetime('now'))
	);
INSERT INTO "goose_db_version" VALUES(1,0,1,'2026-11-25 04:07:33');
INSERT INTO "goose_db_version" VALUES(2,1,1,'2026-11-25 04:07:33');
INSERT INTO "goose_db_version" VALUES(3,2,1,'2026-11-25 04:07:33');
INSERT INTO "goose_db_version" VALUES(4,3,1,'2026-11-26 14:37:07');
INSERT INTO "goose_db_version" VALUES(5,4,1,'2026-12-01 06:40:00');
CREATE TABLE jobs (
    id       TEXT PRIMARY KEY,
    revision INTEGER NOT NULL,
    created  INTEGER NOT NULL, -- Unix milliseconds, UTC
    changed  INTEGER NOT NULL,
    deleted  INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO "jobs" VALUES('j1',3,1790000000000,1790000000000,0);
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
, path TEXT NOT NULL DEFAULT '', hand TEXT NOT NULL DEFAULT '') STRICT;
INSERT INTO "journal" VALUES(1,'create-1','j1',1,'Ines',1790000000000,'create','',1,'[{"subject":"before","after":{"baseline":[{"function":"horn","works":"works"}]}},{"subject":"bench","after":{"school":"extract","stub":60,"rates":{"check":1,"seal":3,"splice":6,"join":8,"extract":4,"out":3,"takeOff":5},"usable":300}},{"subject":"decision/from/A/1","after":{"side":"from","at":{"connector":"A","cavity":"1"},"choice":"goes"}},{"subject":"identity","after":{"unit":{"hardware":"VK2","read":true}}},{"subject":"items","after":{"x":true}},{"subject":"job","after":{"title":"Sorrel refit","kind":"re-pinned","donor":"Tarn Sorrel","chassis":"Tarn Sorrel"}},{"subject":"looked/A","after":{"labelled":true,"counted":4}},{"subject":"photo/p1","after":{"id":"p1","connector":"A","width":0,"height":0,"bytes":0}},{"subject":"reading/r1","after":{"id":"r1","at":{"connector":"A","cavity":"1"},"key":"run","volts":12.4,"when":1}},{"subject":"sheet/wires","after":{"source":"bench","cells":[["Wire","From","Cavity"],["W1","A","1"]]}},{"subject":"thin/system/emissions","after":{"on":"system","id":"emissions","choice":"goes"}},{"subject":"tick/c1","after":{"step":"c1","edits":[],"text":"look"}},{"subject":"trace/t1","after":{"id":"t1","wire":"W1","saw":"taped"}}]',NULL,NULL,'','window-1');
INSERT INTO "journal" VALUES(2,'d1','j1',2,'Ines',1790000000000,'thin-keep','',1,'[{"subject":"thin/wire/W1","after":{"on":"wire","id":"W1","choice":"keep"}}]',NULL,NULL,'','window-1');
INSERT INTO "journal" VALUES(3,'r3','j1',3,'Ines',1790000000000,'reopen','',1,'[{"subject":"decision/from/A/77","before":{"side":"from","at":{"connector":"A","cavity":"77"},"choice":"goes"}}]',NULL,NULL,'POST /match/decide','window-1');
CREATE TABLE photos (
    job     TEXT NOT NULL REFERENCES jobs (id),
    id      TEXT NOT NULL,
    picture BLOB NOT NULL, -- JPEG
    thumb   BLOB NOT NULL, -- JPEG
    PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "photos" VALUES('j1','p1',X'706978656C73',X'666577');
CREATE TABLE removed (
    job     TEXT NOT NULL REFERENCES jobs (id),
    name    TEXT NOT NULL,
    version INTEGER NOT NULL, -- the revision of the job that removed it
    PRIMARY KEY (job, name)
) STRICT, WITHOUT ROWID;
INSERT INTO "removed" VALUES('j1','decision/from/A/77',3);
CREATE TABLE subjects (
    job     TEXT NOT NULL REFERENCES jobs (id),
    name    TEXT NOT NULL,
    body    TEXT NOT NULL CHECK (json_valid(body)),
    version INTEGER NOT NULL, -- the revision of the job that wrote it
    PRIMARY KEY (job, name)
) STRICT, WITHOUT ROWID;
INSERT INTO "subjects" VALUES('j1','before','{"baseline":[{"function":"horn","works":"works"}]}',1);
INSERT INTO "subjects" VALUES('j1','bench','{"school":"extract","stub":60,"rates":{"check":1,"seal":3,"splice":6,"join":8,"extract":4,"out":3,"takeOff":5},"usable":300}',1);
INSERT INTO "subjects" VALUES('j1','decision/from/A/1','{"side":"from","at":{"connector":"A","cavity":"1"},"choice":"goes"}',1);
INSERT INTO "subjects" VALUES('j1','identity','{"unit":{"hardware":"VK2","read":true}}',1);
INSERT INTO "subjects" VALUES('j1','items','{"x":true}',1);
INSERT INTO "subjects" VALUES('j1','job','{"title":"Sorrel refit","kind":"re-pinned","donor":"Tarn Sorrel","chassis":"Tarn Sorrel"}',1);
INSERT INTO "subjects" VALUES('j1','looked/A','{"labelled":true,"counted":4}',1);
INSERT INTO "subjects" VALUES('j1','photo/p1','{"id":"p1","connector":"A","width":0,"height":0,"bytes":0}',1);
INSERT INTO "subjects" VALUES('j1','reading/r1','{"id":"r1","at":{"connector":"A","cavity":"1"},"key":"run","volts":12.4,"when":1}',1);
INSERT INTO "subjects" VALUES('j1','sheet/wires','{"source":"bench","cells":[["Wire","From","Cavity"],["W1","A","1"]]}',1);
INSERT INTO "subjects" VALUES('j1','thin/system/emissions','{"on":"system","id":"emissions","choice":"goes"}',1);
INSERT INTO "subjects" VALUES('j1','thin/wire/W1','{"on":"wire","id":"W1","choice":"keep"}',2);
INSERT INTO "subjects" VALUES('j1','tick/c1','{"step":"c1","edits":[],"text":"look"}',1);
INSERT INTO "subjects" VALUES('j1','trace/t1','{"id":"t1","wire":"W1","saw":"taped"}',1);
CREATE INDEX journal_by_job ON journal (job, seq);
DELETE FROM "sqlite_sequence";
INSERT INTO "sqlite_sequence" VALUES('goose_db_version',4);
COMMIT;
