-- What a shop knows a candidate by, if its price is followed there.
ALTER TABLE candidate ADD COLUMN IF NOT EXISTS offer VARCHAR(40) NULL AFTER price_high_minor;

-- Offers that were asked for, whoever follows them: when last, and what came of it if no figures did.
CREATE TABLE IF NOT EXISTS offer (
    code VARCHAR(40) NOT NULL PRIMARY KEY,
    asked_at DATETIME(6) NOT NULL,
    trouble VARCHAR(20) NULL
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_bin;

-- What was seen of them, and from when to when it was the same.
CREATE TABLE IF NOT EXISTS offer_seen (
    code VARCHAR(40) NOT NULL,
    since DATETIME(6) NOT NULL,
    seen_until DATETIME(6) NOT NULL,
    currency CHAR(3) NOT NULL,
    price_minor BIGINT NOT NULL,
    was_minor BIGINT NULL,
    used_minor BIGINT NULL,
    stock BIGINT NOT NULL,
    PRIMARY KEY (code, since)
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_bin;
