-- Every statement can be run again: a server that was ended half way goes on from where it was.
CREATE TABLE IF NOT EXISTS account (
    id BINARY(16) NOT NULL PRIMARY KEY,
    name VARCHAR(60) NOT NULL,
    password_hash VARCHAR(255) NOT NULL,
    mass_unit VARCHAR(20) NOT NULL,
    currency CHAR(3) NOT NULL,
    version INT NOT NULL,
    created_at DATETIME(6) NOT NULL,
    CONSTRAINT account_name_once UNIQUE (name)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS session (
    token_hash BINARY(32) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    expires_at DATETIME(6) NOT NULL,
    CONSTRAINT session_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    INDEX session_by_expiry (expires_at)
) DEFAULT CHARSET = utf8mb4;

CREATE TABLE IF NOT EXISTS sign_in_failure (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    subject BINARY(32) NOT NULL,
    failed_at DATETIME(6) NOT NULL,
    INDEX sign_in_failure_by_subject (subject, failed_at)
) DEFAULT CHARSET = utf8mb4;

CREATE TABLE IF NOT EXISTS gear (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    name VARCHAR(120) NOT NULL,
    `system` VARCHAR(20) NOT NULL,
    count INT UNSIGNED NOT NULL,
    unit_mg BIGINT NULL,
    unit_typed VARCHAR(60) NULL,
    source VARCHAR(10) NULL,
    paid_minor BIGINT NULL,
    resale_minor BIGINT NULL,
    provides TEXT NOT NULL,
    needs TEXT NOT NULL,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT gear_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    CONSTRAINT gear_weight_has_source CHECK ((unit_mg IS NULL) = (source IS NULL)),
    CONSTRAINT gear_weight_not_negative CHECK (unit_mg >= 0),
    INDEX gear_by_account (account_id, removed_at, `system`, name)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS pack_list (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    name VARCHAR(120) NOT NULL,
    note VARCHAR(200) NOT NULL,
    target_mg BIGINT NULL,
    target_typed VARCHAR(60) NULL,
    budget_minor BIGINT NULL,
    hour_minor BIGINT NOT NULL,
    requires TEXT NOT NULL,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT pack_list_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    INDEX pack_list_by_account (account_id, removed_at)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS list_line (
    id BINARY(16) NOT NULL PRIMARY KEY,
    list_id BINARY(16) NOT NULL,
    gear_id BINARY(16) NOT NULL,
    carried INT UNSIGNED NOT NULL,
    worn INT UNSIGNED NOT NULL,
    used_up INT UNSIGNED NOT NULL,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT list_line_once UNIQUE (list_id, gear_id),
    CONSTRAINT list_line_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE CASCADE,
    CONSTRAINT list_line_gear FOREIGN KEY (gear_id) REFERENCES gear (id) ON DELETE CASCADE
) DEFAULT CHARSET = utf8mb4;

CREATE TABLE IF NOT EXISTS candidate (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    name VARCHAR(120) NOT NULL,
    unit_mg BIGINT NULL,
    unit_typed VARCHAR(60) NULL,
    source VARCHAR(10) NULL,
    price_low_minor BIGINT NULL,
    price_high_minor BIGINT NULL,
    provides TEXT NOT NULL,
    needs TEXT NOT NULL,
    version INT NOT NULL,
    CONSTRAINT candidate_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    CONSTRAINT candidate_price_range CHECK (price_low_minor <= price_high_minor),
    INDEX candidate_by_account (account_id, name)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS swap (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    list_id BINARY(16) NOT NULL,
    name VARCHAR(120) NOT NULL,
    kind VARCHAR(12) NOT NULL,
    state VARCHAR(12) NOT NULL,
    delivery_minor BIGINT NOT NULL,
    resale_minor BIGINT NOT NULL,
    tenth_hours BIGINT NOT NULL,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT swap_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    CONSTRAINT swap_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE CASCADE,
    INDEX swap_by_list (list_id, removed_at)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS swap_remove (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    swap_id BINARY(16) NOT NULL,
    line_id BINARY(16) NOT NULL,
    qty INT UNSIGNED NOT NULL,
    place VARCHAR(8) NOT NULL,
    CONSTRAINT swap_remove_swap FOREIGN KEY (swap_id) REFERENCES swap (id) ON DELETE CASCADE,
    CONSTRAINT swap_remove_line FOREIGN KEY (line_id) REFERENCES list_line (id) ON DELETE CASCADE
) DEFAULT CHARSET = utf8mb4;

CREATE TABLE IF NOT EXISTS swap_add (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    swap_id BINARY(16) NOT NULL,
    candidate_id BINARY(16) NOT NULL,
    qty INT UNSIGNED NOT NULL,
    place VARCHAR(8) NOT NULL,
    CONSTRAINT swap_add_swap FOREIGN KEY (swap_id) REFERENCES swap (id) ON DELETE CASCADE,
    CONSTRAINT swap_add_candidate FOREIGN KEY (candidate_id) REFERENCES candidate (id) ON DELETE CASCADE
) DEFAULT CHARSET = utf8mb4;

CREATE TABLE IF NOT EXISTS swap_link (
    swap_id BINARY(16) NOT NULL,
    other_id BINARY(16) NOT NULL,
    relation VARCHAR(8) NOT NULL,
    PRIMARY KEY (swap_id, other_id, relation),
    CONSTRAINT swap_link_swap FOREIGN KEY (swap_id) REFERENCES swap (id) ON DELETE CASCADE,
    CONSTRAINT swap_link_other FOREIGN KEY (other_id) REFERENCES swap (id) ON DELETE CASCADE
) DEFAULT CHARSET = utf8mb4;
