-- Where what was kept of an item has a reason: what is unlikely there was answered. Derived from its entries.
ALTER TABLE item ADD COLUMN IF NOT EXISTS answered JSON NOT NULL DEFAULT '[]' AFTER facts;

UPDATE item i
JOIN (SELECT owner_id, JSON_ARRAYAGG(path) AS paths FROM (SELECT DISTINCT owner_id, path FROM entry WHERE reason IS NOT NULL) e GROUP BY owner_id) a
  ON a.owner_id = i.id
SET i.answered = a.paths;

-- What nobody gave a reason for is told from now on.
INSERT IGNORE INTO pending_line (line_id) SELECT DISTINCT line_id FROM item WHERE line_id IS NOT NULL;

-- A set that is cured with the structure is not fetched out of its molds.
DELETE d FROM due d JOIN item i ON i.id = d.item_id
WHERE i.kind = 'specimen-set' AND d.due IN ('fetch', 'cure') AND JSON_VALUE(i.facts, '$.curing') = 'field';
