-- What the role of a server may do in a register: read and write rows. It changes no table and switches no trigger off.
-- Run by the owner of the tables, in the register's database, once the role is there; npm start does so with the embedded one.
grant usage on schema public to malle_server;
grant select, insert, update, delete on all tables in schema public to malle_server;
grant usage, select on all sequences in schema public to malle_server;
alter default privileges in schema public grant select, insert, update, delete on tables to malle_server;
alter default privileges in schema public grant usage, select on sequences to malle_server;
