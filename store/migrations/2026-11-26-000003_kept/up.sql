-- Counted up by every write of an account: the row that its writes wait for, and what tells that nothing has changed.
ALTER TABLE account
    ADD COLUMN IF NOT EXISTS revision BIGINT NOT NULL DEFAULT 0 AFTER version,
    ADD COLUMN IF NOT EXISTS settings TEXT NOT NULL DEFAULT '{}' AFTER currency,
    -- Names are normalised before they are kept or looked for, so they are compared as they are.
    MODIFY COLUMN name VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL;

-- The answers to requests that changed something, by what names the request: a retry gets the answer of the first.
CREATE TABLE IF NOT EXISTS answered (
    account_id BINARY(16) NOT NULL,
    request BINARY(32) NOT NULL,
    change_id BINARY(16) NULL,
    body MEDIUMTEXT NOT NULL,
    answered_at DATETIME(6) NOT NULL,
    PRIMARY KEY (account_id, request),
    CONSTRAINT answered_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    INDEX answered_by_time (answered_at)
) DEFAULT CHARSET = utf8mb4;

-- Undoing is a change of its own that names the one it takes back.
ALTER TABLE change_entry ADD COLUMN IF NOT EXISTS undoes BINARY(16) NULL AFTER undone_at;

ALTER TABLE session
    ADD COLUMN IF NOT EXISTS id BINARY(16) NULL AFTER account_id,
    ADD COLUMN IF NOT EXISTS device VARCHAR(200) NOT NULL DEFAULT '' AFTER id,
    ADD COLUMN IF NOT EXISTS started_at DATETIME(6) NOT NULL DEFAULT CURRENT_TIMESTAMP(6) AFTER device,
    ADD COLUMN IF NOT EXISTS seen_at DATETIME(6) NOT NULL DEFAULT CURRENT_TIMESTAMP(6) AFTER started_at;
UPDATE session SET id = UNHEX(REPLACE(UUID(), '-', '')) WHERE id IS NULL;
ALTER TABLE session
    MODIFY COLUMN id BINARY(16) NOT NULL,
    ADD UNIQUE INDEX IF NOT EXISTS session_id_once (id);
