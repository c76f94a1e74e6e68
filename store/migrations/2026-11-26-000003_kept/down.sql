ALTER TABLE session
    DROP INDEX session_id_once,
    DROP COLUMN id,
    DROP COLUMN device,
    DROP COLUMN started_at,
    DROP COLUMN seen_at;
ALTER TABLE change_entry DROP COLUMN undoes;
DROP TABLE answered;
ALTER TABLE account
    DROP COLUMN revision,
    DROP COLUMN settings,
    MODIFY COLUMN name VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci NOT NULL;
