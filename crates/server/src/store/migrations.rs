//! The schema, as a list of steps that is only ever added to.

use rusqlite_migration::{M, Migrations};

const STEPS: &[M<'static>] = &[
    M::up(
        "CREATE TABLE player (
        id INTEGER PRIMARY KEY CHECK (id = 1),
        name TEXT NOT NULL,
        hand TEXT NOT NULL,
        strong_style TEXT NOT NULL,
        backhand_m REAL NOT NULL,
        forehand_m REAL NOT NULL,
        skill TEXT NOT NULL,
        units TEXT NOT NULL,
        school TEXT NOT NULL,
        altitude_m REAL NOT NULL,
        temperature_c REAL NOT NULL
    ) STRICT;
    CREATE TABLE disc (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        name TEXT NOT NULL COLLATE NOCASE,
        maker TEXT NOT NULL,
        mould TEXT NOT NULL,
        plastic TEXT NOT NULL,
        mass_g REAL NOT NULL,
        reference_mass_g REAL NOT NULL,
        speed REAL NOT NULL,
        glide REAL NOT NULL,
        turn REAL NOT NULL,
        fade REAL NOT NULL,
        observed_speed REAL,
        observed_glide REAL,
        observed_turn REAL,
        observed_fade REAL,
        top TEXT NOT NULL,
        grade TEXT NOT NULL,
        throws INTEGER,
        hard_hits INTEGER NOT NULL,
        used_for TEXT NOT NULL,
        rim_cm REAL,
        colour TEXT NOT NULL,
        notes TEXT NOT NULL,
        deleted INTEGER NOT NULL DEFAULT 0
    ) STRICT;
    CREATE UNIQUE INDEX disc_name ON disc (name) WHERE deleted = 0;
    CREATE TABLE bag (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        name TEXT NOT NULL UNIQUE COLLATE NOCASE,
        capacity INTEGER NOT NULL,
        event_cap_g REAL
    ) STRICT;
    CREATE TABLE bag_disc (
        bag_id INTEGER NOT NULL REFERENCES bag (id) ON DELETE CASCADE,
        disc_id INTEGER NOT NULL REFERENCES disc (id) ON DELETE CASCADE,
        spare INTEGER NOT NULL DEFAULT 0,
        PRIMARY KEY (bag_id, disc_id)
    ) STRICT, WITHOUT ROWID;
    CREATE TABLE line_setting (
        key TEXT PRIMARY KEY,
        enabled INTEGER NOT NULL,
        weight REAL
    ) STRICT, WITHOUT ROWID;
    CREATE TABLE own_line (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        replaces TEXT UNIQUE,
        enabled INTEGER NOT NULL DEFAULT 1,
        spec TEXT NOT NULL CHECK (json_valid(spec)),
        deleted INTEGER NOT NULL DEFAULT 0
    ) STRICT;
    INSERT INTO bag (id, name, capacity) VALUES (1, 'Main bag', 25);",
    ),
    M::up(
        "ALTER TABLE player ADD COLUMN overhand_m REAL;
    ALTER TABLE player ADD COLUMN scatter TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(scatter));
    ALTER TABLE player ADD COLUMN evidence TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(evidence));",
    ),
    M::up("ALTER TABLE player ADD COLUMN season TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(season));"),
    // Marks the file as ours: "ZnKt".
    M::up("PRAGMA application_id = 1517177716;"),
    M::up(
        "CREATE TABLE change_step (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        at TEXT NOT NULL,
        words TEXT NOT NULL DEFAULT '',
        undone INTEGER NOT NULL DEFAULT 0,
        window TEXT,
        bytes INTEGER NOT NULL DEFAULT 0
    ) STRICT;
    CREATE TABLE change_row (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        step_id INTEGER NOT NULL REFERENCES change_step (id) ON DELETE CASCADE,
        of_table TEXT NOT NULL,
        row_key TEXT NOT NULL CHECK (json_valid(row_key)),
        before TEXT CHECK (json_valid(before)),
        after TEXT CHECK (json_valid(after))
    ) STRICT;
    CREATE INDEX change_row_step ON change_row (step_id);
    CREATE INDEX change_row_key ON change_row (of_table, row_key);",
    ),
    // The library begins with the moulds of the shelf, each as its last disc tells.
    M::up(
        "ALTER TABLE player ADD COLUMN habits TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(habits));
    ALTER TABLE disc ADD COLUMN class TEXT;
    ALTER TABLE disc ADD COLUMN keeping TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(keeping));
    CREATE TABLE mould (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        spec TEXT NOT NULL CHECK (json_valid(spec)),
        deleted INTEGER NOT NULL DEFAULT 0
    ) STRICT;
    INSERT INTO mould (spec) SELECT json_object('name', mould, 'maker', maker, 'printed', json_object(
            'speed', speed, 'glide', glide, 'turn', turn, 'fade', fade),
            'reference_mass_g', reference_mass_g, 'rim_cm', rim_cm)
        FROM disc WHERE id IN (SELECT max(id) FROM disc WHERE deleted = 0 GROUP BY lower(maker), lower(mould))
        ORDER BY maker, mould;",
    ),
    M::up(
        "CREATE TABLE course (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        spec TEXT NOT NULL CHECK (json_valid(spec)),
        deleted INTEGER NOT NULL DEFAULT 0
    ) STRICT;",
    ),
    // A round's key is made by whoever begins it, out of reach of this program perhaps.
    M::up(
        "CREATE TABLE round (
        key TEXT PRIMARY KEY NOT NULL,
        spec TEXT NOT NULL CHECK (json_valid(spec)),
        deleted INTEGER NOT NULL DEFAULT 0
    ) STRICT;",
    ),
    M::up(
        "CREATE TABLE field_session (
        key TEXT PRIMARY KEY NOT NULL,
        spec TEXT NOT NULL CHECK (json_valid(spec)),
        deleted INTEGER NOT NULL DEFAULT 0
    ) STRICT;
    CREATE TABLE throw (
        key TEXT PRIMARY KEY NOT NULL,
        session TEXT NOT NULL,
        spec TEXT NOT NULL CHECK (json_valid(spec)),
        deleted INTEGER NOT NULL DEFAULT 0,
        disc_id INTEGER GENERATED ALWAYS AS (json_extract(spec, '$.disc_id')) VIRTUAL
    ) STRICT;
    CREATE INDEX throw_session ON throw (session, deleted, disc_id);
    CREATE INDEX throw_disc ON throw (disc_id, deleted, session);",
    ),
    // The latest throws in a style are found without looking at all.
    M::up(
        "ALTER TABLE throw ADD COLUMN style TEXT GENERATED ALWAYS AS (json_extract(spec, '$.style')) VIRTUAL;
    CREATE INDEX throw_style ON throw (session, style, deleted);
    CREATE INDEX field_session_day ON field_session (json_extract(spec, '$.date'));",
    ),
    // The order in which steps were made and turned, so that redo finds the one that was undone last. Older SQLite takes NULL for
    // no valid JSON, and would call a healthy record damaged.
    M::up(
        "ALTER TABLE change_step ADD COLUMN made INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE change_step ADD COLUMN turned INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE change_step ADD COLUMN made_in TEXT;
    ALTER TABLE change_step ADD COLUMN things INTEGER NOT NULL DEFAULT 0;
    UPDATE change_step SET made = id, made_in = window,
        things = (SELECT count(DISTINCT of_table || row_key) FROM change_row WHERE step_id = change_step.id);
    UPDATE change_step SET turned = 2 * (SELECT max(id) FROM change_step) - id + 1
        WHERE undone AND id > (SELECT ifnull(max(id), 0) FROM change_step WHERE NOT undone);
    CREATE TABLE change_row_now (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        step_id INTEGER NOT NULL REFERENCES change_step (id) ON DELETE CASCADE,
        of_table TEXT NOT NULL,
        row_key TEXT NOT NULL CHECK (json_valid(row_key)),
        before TEXT CHECK (before IS NULL OR json_valid(before)),
        after TEXT CHECK (after IS NULL OR json_valid(after))
    ) STRICT;
    INSERT INTO change_row_now SELECT id, step_id, of_table, row_key, before, after FROM change_row;
    DROP TABLE change_row;
    ALTER TABLE change_row_now RENAME TO change_row;
    CREATE INDEX change_row_step ON change_row (step_id);
    CREATE INDEX change_row_key ON change_row (of_table, row_key);",
    ),
];

/// Number of steps: the version of the newest schema.
pub const VERSION: usize = STEPS.len();

/// The steps.
pub fn migrations() -> Migrations<'static> {
    Migrations::from_slice(STEPS)
}
