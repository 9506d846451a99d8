-- The call-off plan of agreements: what is expected to be released when. (A7)

CREATE TABLE IF NOT EXISTS agreement_call (
  company_id SMALLINT UNSIGNED NOT NULL,
  agreement_line_id INT UNSIGNED NOT NULL,
  day DATE NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  -- Left out on purpose: a holiday, a month they are closed.
  skipped BOOLEAN NOT NULL DEFAULT FALSE,
  -- The recurrence it came from (RFC 5545), empty where its date was typed.
  rule VARCHAR(200) NOT NULL DEFAULT '',
  -- One expectation for a line and a day; also serves reading a line's plan in order.
  PRIMARY KEY (company_id, agreement_line_id, day),
  FOREIGN KEY (company_id, agreement_line_id) REFERENCES agreement_line (company_id, id) ON DELETE CASCADE
);
