-- Whoever changes what content is looked at through, in whichever way, tells all open pages of it. What is told several times in
-- one transaction is told once, when that holds. The channel is that on which servers listen.
create function tell_of_variation() returns trigger language plpgsql as $$
begin
  perform pg_catalog.pg_notify('allomorph', pg_catalog.json_build_object(
    'workspace', coalesce(new.workspace, old.workspace),
    'event', pg_catalog.json_build_object('type', 'variation'))::text);
  return null;
end;
$$;

create trigger tell_of_axes after insert or update or delete on axes
  for each row execute function tell_of_variation();
create trigger tell_of_profiles after insert or update or delete on profiles
  for each row execute function tell_of_variation();
create trigger tell_of_stamps after insert or update or delete on stamps
  for each row execute function tell_of_variation();
create trigger tell_of_designs after insert or update or delete on designs
  for each row execute function tell_of_variation();
create trigger tell_of_variants after insert or update or delete on variants
  for each row execute function tell_of_variation();
-- Variants come and go with their publication, and are listed under its title.
create trigger tell_of_publications after insert or delete on publications
  for each row execute function tell_of_variation();
create trigger tell_of_changed_publications after update on publications for each row
  when (old.title is distinct from new.title or old.deleted_at is distinct from new.deleted_at)
  execute function tell_of_variation();
