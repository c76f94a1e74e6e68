ALTER TABLE gear
    CHANGE COLUMN IF EXISTS paid_minor paid_low_minor BIGINT NULL,
    ADD COLUMN IF NOT EXISTS paid_high_minor BIGINT NULL AFTER paid_low_minor,
    ADD COLUMN IF NOT EXISTS half_width_mg BIGINT NULL AFTER source,
    ADD COLUMN IF NOT EXISTS claimed_mg BIGINT NULL AFTER half_width_mg,
    ADD COLUMN IF NOT EXISTS claimed_typed VARCHAR(60) NULL AFTER claimed_mg,
    ADD COLUMN IF NOT EXISTS acquired VARCHAR(10) NOT NULL DEFAULT 'new' AFTER paid_high_minor,
    ADD COLUMN IF NOT EXISTS status VARCHAR(10) NOT NULL DEFAULT 'owned' AFTER resale_minor,
    ADD COLUMN IF NOT EXISTS kept_at VARCHAR(120) NOT NULL DEFAULT '' AFTER status,
    ADD COLUMN IF NOT EXISTS tags VARCHAR(900) NOT NULL DEFAULT '' AFTER kept_at,
    ADD COLUMN IF NOT EXISTS nights INT UNSIGNED NOT NULL DEFAULT 0 AFTER tags;
UPDATE gear SET paid_high_minor = paid_low_minor;
UPDATE gear SET claimed_mg = unit_mg, claimed_typed = unit_typed WHERE source = 'maker';
ALTER TABLE gear
    ADD CONSTRAINT IF NOT EXISTS gear_price_range CHECK ((paid_low_minor IS NULL) = (paid_high_minor IS NULL) AND paid_low_minor <= paid_high_minor),
    ADD CONSTRAINT IF NOT EXISTS gear_claim_whole CHECK ((claimed_mg IS NULL) = (claimed_typed IS NULL));

CREATE TABLE IF NOT EXISTS kit (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    name VARCHAR(120) NOT NULL,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT kit_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    INDEX kit_by_account (account_id, removed_at, name)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS kit_part (
    kit_id BINARY(16) NOT NULL,
    gear_id BINARY(16) NOT NULL,
    count INT UNSIGNED NOT NULL,
    PRIMARY KEY (kit_id, gear_id),
    CONSTRAINT kit_part_kit FOREIGN KEY (kit_id) REFERENCES kit (id) ON DELETE CASCADE,
    CONSTRAINT kit_part_gear FOREIGN KEY (gear_id) REFERENCES gear (id) ON DELETE CASCADE
) DEFAULT CHARSET = utf8mb4;

-- A weighing is of a thing or of a kit. What is taken back is hidden, not deleted.
CREATE TABLE IF NOT EXISTS weighing (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    gear_id BINARY(16) NULL,
    kit_id BINARY(16) NULL,
    total_mg BIGINT NOT NULL,
    pieces INT UNSIGNED NOT NULL,
    step_mg BIGINT NOT NULL,
    typed VARCHAR(60) NOT NULL,
    scale VARCHAR(60) NOT NULL,
    weighed_at DATETIME(6) NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT weighing_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    CONSTRAINT weighing_gear FOREIGN KEY (gear_id) REFERENCES gear (id) ON DELETE CASCADE,
    CONSTRAINT weighing_kit FOREIGN KEY (kit_id) REFERENCES kit (id) ON DELETE CASCADE,
    CONSTRAINT weighing_of_one CHECK ((gear_id IS NULL) <> (kit_id IS NULL)),
    INDEX weighing_by_gear (gear_id, weighed_at),
    INDEX weighing_by_kit (kit_id, weighed_at),
    INDEX weighing_by_account (account_id, weighed_at)
) DEFAULT CHARSET = utf8mb4;

-- The change log: append only, but for the mark that a change was undone.
CREATE TABLE IF NOT EXISTS change_entry (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    said VARCHAR(300) NOT NULL,
    changed_at DATETIME(6) NOT NULL,
    undone_at DATETIME(6) NULL,
    CONSTRAINT change_entry_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    INDEX change_entry_by_account (account_id, id)
) DEFAULT CHARSET = utf8mb4;

CREATE TABLE IF NOT EXISTS change_item (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    change_id BINARY(16) NOT NULL,
    kind VARCHAR(10) NOT NULL,
    object_id BINARY(16) NOT NULL,
    before_state MEDIUMTEXT NULL,
    after_state MEDIUMTEXT NULL,
    CONSTRAINT change_item_change FOREIGN KEY (change_id) REFERENCES change_entry (id) ON DELETE CASCADE,
    INDEX change_item_by_object (object_id, change_id)
) DEFAULT CHARSET = utf8mb4;
