import { Migration } from '@mikro-orm/migrations';

/** What a judgement needs that changes by itself: a smart pack's own bleed, and rules adopted while packs wait to be judged. */
export class WholeJudgement extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `alter table pack_state add column bled_at timestamptz`,
  `create index pack_state_rules on pack_state (rules_version)`,
  // What was judged before there were these rules is judged anew when the server starts.
  `update pack_state set rules_version = 0`,
  // A pack's state is written when its records change; that a smart pack has bled itself to storage since is read from
  // the clock here, in one place, so that no list can forget it.
  `create function pack_standing(moment timestamptz) returns setof pack_state language sql stable as $$
     select pack_id, seq, head_hash, rules_version, last_record_at, verdict, may_fly, findings, cells_mv, by_cell,
            read_at, soc_percent,
            case when bled_at <= moment then 'pending' else storage end,
            case when bled_at <= moment then bled_at else since end,
            case when bled_at <= moment then null else due_at end,
            case when bled_at <= moment then null else allowance_hours end,
            case when bled_at <= moment then 'measure-rested' else next_do end,
            case when bled_at <= moment then bled_at else next_due_at end,
            case when bled_at <= moment then 'measure-rested' else read_do end,
            case when bled_at <= moment then bled_at else read_due_at end,
            place_id, holder_id, bled_at
       from pack_state
   $$`,
];
