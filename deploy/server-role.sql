-- What the role of a server may do in a register: read, add and change rows, and delete from the few tables named below. It changes no table and switches no trigger off.
-- Run by the owner of the tables, in the register's database, once the role is there and after each migration; npm start does so with the embedded one.
grant usage on schema public to malle_server;
grant select, insert, update on all tables in schema public to malle_server;
grant usage, select on all sequences in schema public to malle_server;
alter default privileges in schema public grant select, insert, update on tables to malle_server;
alter default privileges in schema public grant usage, select on sequences to malle_server;
-- Earlier versions let it delete from every table.
revoke delete on all tables in schema public from malle_server;
alter default privileges in schema public revoke delete on tables from malle_server;
do $$
declare deletable text;
begin
  foreach deletable in array array[
    -- Plans and lists that are made anew.
    'attendance', 'charge_job', 'incident_task',
    -- The tags of an import that is taken back, and the first rules of a register that takes an archive in. Others that are gone are found by checkpoints.
    'pack_tag', 'rule_set',
    -- What lets somebody in, and who is in.
    'bench_pass', 'one_time_code', 'passkey', 'passkey_challenge', 'sign_in_link', 'sign_in_throttle', 'spare_code', 'user_session'
  ] loop
    if to_regclass(format('public.%I', deletable)) is not null then
      execute format('grant delete on public.%I to malle_server', deletable);
    end if;
  end loop;
end $$;
