-- What a trip asks of single things (ratings, liners, gas in a can), as JSON.
ALTER TABLE gear ADD COLUMN IF NOT EXISTS facts VARCHAR(300) NOT NULL DEFAULT '{}' AFTER needs;
ALTER TABLE candidate ADD COLUMN IF NOT EXISTS facts VARCHAR(300) NOT NULL DEFAULT '{}' AFTER needs;

-- Two more places of a line's pieces, and who carries it.
ALTER TABLE list_line
    ADD COLUMN IF NOT EXISTS apart INT UNSIGNED NOT NULL DEFAULT 0 AFTER used_up,
    ADD COLUMN IF NOT EXISTS left_home INT UNSIGNED NOT NULL DEFAULT 0 AFTER apart,
    ADD COLUMN IF NOT EXISTS shared BOOLEAN NOT NULL DEFAULT FALSE AFTER left_home,
    ADD COLUMN IF NOT EXISTS walker_id BINARY(16) NULL AFTER shared;

-- The trip as JSON (kevyt-list/1), the way of counting that new lines follow, and whether the list is put away.
ALTER TABLE pack_list
    ADD COLUMN IF NOT EXISTS trip TEXT NULL AFTER requires,
    ADD COLUMN IF NOT EXISTS way VARCHAR(60) NOT NULL DEFAULT '' AFTER trip,
    ADD COLUMN IF NOT EXISTS ways TEXT NOT NULL DEFAULT '[]' AFTER way,
    ADD COLUMN IF NOT EXISTS archived BOOLEAN NOT NULL DEFAULT FALSE AFTER ways;

-- Who walks: the owner, others by name, and those who have joined with an account of their own.
CREATE TABLE IF NOT EXISTS list_walker (
    id BINARY(16) NOT NULL PRIMARY KEY,
    list_id BINARY(16) NOT NULL,
    name VARCHAR(60) NOT NULL,
    body_mg BIGINT NULL,
    account_id BINARY(16) NULL,
    shows_prices BOOLEAN NOT NULL DEFAULT FALSE,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT list_walker_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE CASCADE,
    CONSTRAINT list_walker_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE SET NULL,
    INDEX list_walker_by_list (list_id, removed_at),
    INDEX list_walker_by_account (account_id, removed_at)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

-- Links that open a list: to read it without an account, or to join it as a walker. Only the digest of what is in the address is kept.
CREATE TABLE IF NOT EXISTS list_link (
    id BINARY(16) NOT NULL PRIMARY KEY,
    list_id BINARY(16) NOT NULL,
    walker_id BINARY(16) NULL,
    token_hash BINARY(32) NOT NULL,
    shows_prices BOOLEAN NOT NULL DEFAULT FALSE,
    expires_at DATETIME(6) NULL,
    made_at DATETIME(6) NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT list_link_once UNIQUE (token_hash),
    CONSTRAINT list_link_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE CASCADE,
    INDEX list_link_by_list (list_id, removed_at)
) DEFAULT CHARSET = utf8mb4;

-- Jobs are named as in the open formats. A name in quotes is the whole key, so that running this again changes nothing.
UPDATE gear SET
    provides = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(provides, '"insulation":', '"sleep_insulation":'), '"ground_r":', '"ground_insulation":'), '"pole":', '"shelter_pole":'), '"water_ml":', '"water_carried":'), '"room_ml":', '"room":'), '"load_g":', '"load":'), '"power_mwh":', '"power":'),
    needs = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(needs, '"insulation":', '"sleep_insulation":'), '"ground_r":', '"ground_insulation":'), '"pole":', '"shelter_pole":'), '"water_ml":', '"water_carried":'), '"room_ml":', '"room":'), '"load_g":', '"load":'), '"power_mwh":', '"power":');
UPDATE candidate SET
    provides = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(provides, '"insulation":', '"sleep_insulation":'), '"ground_r":', '"ground_insulation":'), '"pole":', '"shelter_pole":'), '"water_ml":', '"water_carried":'), '"room_ml":', '"room":'), '"load_g":', '"load":'), '"power_mwh":', '"power":'),
    needs = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(needs, '"insulation":', '"sleep_insulation":'), '"ground_r":', '"ground_insulation":'), '"pole":', '"shelter_pole":'), '"water_ml":', '"water_carried":'), '"room_ml":', '"room":'), '"load_g":', '"load":'), '"power_mwh":', '"power":');
UPDATE pack_list SET
    requires = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(requires, '"insulation":', '"sleep_insulation":'), '"ground_r":', '"ground_insulation":'), '"pole":', '"shelter_pole":'), '"water_ml":', '"water_carried":'), '"room_ml":', '"room":'), '"load_g":', '"load":'), '"power_mwh":', '"power":');
