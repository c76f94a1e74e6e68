-- How a list is being packed: what of it is in, and where, if the walker says so.
CREATE TABLE IF NOT EXISTS packing (
    line_id BINARY(16) NOT NULL PRIMARY KEY,
    list_id BINARY(16) NOT NULL,
    zone VARCHAR(20) NULL,
    is_in BOOL NOT NULL DEFAULT FALSE,
    CONSTRAINT packing_line FOREIGN KEY (line_id) REFERENCES list_line (id) ON DELETE CASCADE,
    CONSTRAINT packing_list FOREIGN KEY (list_id) REFERENCES pack_list (id) ON DELETE CASCADE
) DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci;
