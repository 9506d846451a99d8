-- What somebody may see is a right of its own. Roles that were there keep seeing what they saw, but for two that need not. (G7)
UPDATE role SET rights = JSON_MERGE_PRESERVE(rights, '["see-costs","see-debts","see-agreements","see-mail"]')
  WHERE name NOT IN ('Stock keeper', 'Buyer', 'Planner') AND NOT JSON_CONTAINS(rights, '"see-debts"');
UPDATE role SET rights = JSON_MERGE_PRESERVE(rights, '["see-costs","see-agreements","see-mail"]')
  WHERE name IN ('Buyer', 'Planner') AND NOT JSON_CONTAINS(rights, '"see-agreements"');
UPDATE role SET rights = JSON_MERGE_PRESERVE(rights, '["write-to-others"]')
  WHERE name IN ('Order administrator', 'Accounts clerk', 'Sales manager') AND NOT JSON_CONTAINS(rights, '"write-to-others"');
