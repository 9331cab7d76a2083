-- What was called linked is called sharing: edits of earlier steps are read for what they were about.
update steps
set edits = replace(replace(edits::text, '"do":"unlink"', '"do":"unshare"'), '"linked":', '"sharing":')::json
where edits::text like '%"do":"unlink"%' or edits::text like '%"linked":%';
