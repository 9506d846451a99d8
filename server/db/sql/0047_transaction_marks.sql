-- In a cluster every transaction writes a mark first and takes it out last: one that was undone in between has none to
-- take out, and is refused. Empty but for transactions at work.
CREATE TABLE IF NOT EXISTS transaction_mark (
  token CHAR(16) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (token)
);
