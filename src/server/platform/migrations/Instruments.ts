import { Migration } from '@mikro-orm/migrations';

/**
 * Instruments that speak for themselves: what they are, what they show now, what they said of the pack that was on them, and how a charge
 * went. What they show now is worth nothing tomorrow and lies apart from what is evidence.
 */
export class Instruments extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `create table device (
     id uuid primary key, name text not null unique, kind text not null check (kind in ('meter', 'charger')),
     instrument_id uuid references instrument, equipment_id uuid references equipment, patterns jsonb not null default '[]',
     hash text unique, made_by uuid not null references person, made_at timestamptz not null, ended_at timestamptz,
     version int not null default 1, check ((kind = 'meter') = (instrument_id is not null)),
     check ((kind = 'charger') = (equipment_id is not null))
   )`,
  // Two devices that speak for one charger would tell two stories of one channel.
  `create unique index device_charger on device (equipment_id) where ended_at is null`,
  `create table device_state (
     device_id uuid primary key references device on delete cascade, connection uuid, run uuid, taken int not null default 0,
     is_open boolean not null default false, can_stop boolean not null default false, seen_at timestamptz, software text,
     taken_by uuid references person, taken_page uuid, meter jsonb, channels jsonb not null default '{}', problem text,
     lines jsonb not null default '[]'
   )`,
  `create table device_reading (
     id uuid primary key, device_id uuid not null references device, contact text not null, began_at timestamptz not null,
     at timestamptz not null, lowest jsonb not null, highest jsonb not null, is_total boolean not null,
     unique (device_id, contact)
   )`,
  `create table charge_curve (
     id uuid primary key, job_id uuid unique references charge_job, device_id uuid references device, pack_id uuid references pack,
     name text, began_at timestamptz not null, at timestamptz not null, points bytea not null
   )`,
];
