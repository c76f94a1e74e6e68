-- Trips, coming and walked. What was planned, met and used up is JSON; the list as it was that day stands in trip_thing.
CREATE TABLE IF NOT EXISTS trip (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    list_id BINARY(16) NULL,
    name VARCHAR(120) NOT NULL,
    starts_on DATE NOT NULL,
    nights INT UNSIGNED NOT NULL,
    people VARCHAR(200) NOT NULL DEFAULT '',
    note VARCHAR(500) NOT NULL DEFAULT '',
    kept_at DATETIME(6) NULL,
    base_mg BIGINT NULL,
    planned TEXT NULL,
    met TEXT NOT NULL DEFAULT '{}',
    used_up TEXT NOT NULL DEFAULT '{}',
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT trip_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    CONSTRAINT trip_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE SET NULL,
    INDEX trip_by_account (account_id, removed_at, starts_on)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

-- Things of a trip as they were then, and what was said of them after it. The gear may be another since, or gone.
CREATE TABLE IF NOT EXISTS trip_thing (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    trip_id BINARY(16) NOT NULL,
    gear_id BINARY(16) NULL,
    name VARCHAR(120) NOT NULL,
    system VARCHAR(20) NOT NULL,
    carried INT UNSIGNED NOT NULL,
    worn INT UNSIGNED NOT NULL,
    used_up INT UNSIGNED NOT NULL,
    apart INT UNSIGNED NOT NULL,
    left_home INT UNSIGNED NOT NULL,
    unit_mg BIGINT NULL,
    source VARCHAR(20) NULL,
    tags VARCHAR(1000) NOT NULL DEFAULT '',
    provides TEXT NOT NULL,
    facts TEXT NOT NULL,
    is_in BOOL NOT NULL DEFAULT FALSE,
    used BOOL NULL,
    marks VARCHAR(200) NOT NULL DEFAULT '[]',
    note VARCHAR(500) NOT NULL DEFAULT '',
    nights INT UNSIGNED NOT NULL DEFAULT 0,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT trip_thing_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    CONSTRAINT trip_thing_trip FOREIGN KEY (trip_id) REFERENCES trip (id) ON DELETE CASCADE,
    INDEX trip_thing_by_trip (trip_id, removed_at),
    INDEX trip_thing_by_account (account_id, removed_at)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

-- What trips teach and is not to be said again.
CREATE TABLE IF NOT EXISTS silenced_lesson (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    lesson VARCHAR(160) NOT NULL,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT silenced_lesson_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    INDEX silenced_lesson_by_account (account_id, removed_at)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

-- The base weight of a list each time that something changed it.
CREATE TABLE IF NOT EXISTS base_point (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    list_id BINARY(16) NOT NULL,
    at DATETIME(6) NOT NULL,
    base_mg BIGINT NOT NULL,
    unknown INT UNSIGNED NOT NULL,
    cause VARCHAR(20) NOT NULL,
    what VARCHAR(300) NOT NULL,
    CONSTRAINT base_point_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    CONSTRAINT base_point_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE CASCADE,
    INDEX base_point_by_list (list_id, at)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

-- How a walker packs a list: what the scale showed, what each zone holds, and what they have written down to do, as JSON.
CREATE TABLE IF NOT EXISTS packing_run (
    list_id BINARY(16) NOT NULL,
    account_id BINARY(16) NOT NULL,
    reading VARCHAR(60) NOT NULL DEFAULT '',
    of_me VARCHAR(60) NOT NULL DEFAULT '',
    zones TEXT NOT NULL DEFAULT '{}',
    to_do TEXT NOT NULL DEFAULT '[]',
    PRIMARY KEY (list_id, account_id),
    CONSTRAINT packing_run_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE CASCADE,
    CONSTRAINT packing_run_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;
ALTER TABLE packing ADD COLUMN IF NOT EXISTS place INT NULL AFTER zone;
