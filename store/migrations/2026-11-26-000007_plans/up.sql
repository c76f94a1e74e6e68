-- How the plan of a list is asked for, beside target and budget: as JSON.
ALTER TABLE pack_list ADD COLUMN IF NOT EXISTS terms TEXT NOT NULL DEFAULT '{}' AFTER ways;
-- Proposals that are not to be made again, as JSON.
ALTER TABLE pack_list ADD COLUMN IF NOT EXISTS silenced TEXT NOT NULL DEFAULT '[]' AFTER terms;

-- What was done when a swap was made for good, as JSON; nothing while it is a plan.
ALTER TABLE swap ADD COLUMN IF NOT EXISTS done TEXT NULL AFTER tenth_hours;

-- Plans that were kept by name: the swaps of each, as JSON.
CREATE TABLE IF NOT EXISTS kept_plan (
    id BINARY(16) NOT NULL PRIMARY KEY,
    account_id BINARY(16) NOT NULL,
    list_id BINARY(16) NOT NULL,
    name VARCHAR(120) NOT NULL,
    swaps TEXT NOT NULL,
    kept_at DATETIME(6) NOT NULL,
    version INT NOT NULL,
    removed_at DATETIME(6) NULL,
    CONSTRAINT kept_plan_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE,
    CONSTRAINT kept_plan_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE CASCADE,
    INDEX kept_plan_by_list (list_id, removed_at)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;
