-- Devices a person signed in from before: others who guess at the name do not keep them out.
CREATE TABLE IF NOT EXISTS known_device (
  -- SHA-256 of the cookie's token.
  token_hash BINARY(32) NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  seen_at DATETIME(3) NOT NULL,
  PRIMARY KEY (token_hash),
  KEY known_device_seen (seen_at),
  FOREIGN KEY (person_id) REFERENCES person (id)
);
