-- A variant stops at a chosen level of problem, instead of at errors or never.
update variants
   set recipe = recipe - 'strict' || jsonb_build_object('stopsAt', case when recipe->>'strict' = 'true' then 'errors' else 'never' end);
update builds
   set recipe = recipe - 'strict' || jsonb_build_object('stopsAt', case when recipe->>'strict' = 'true' then 'errors' else 'never' end);
-- Drafts of variants that were begun before would miss what every variant says now.
update drafts
   set draft = replace(replace(draft, '"strict":true', '"stopsAt":"errors"'), '"strict":false', '"stopsAt":"never"')
 where thing like 'variant %' or thing like 'new variant of %';
