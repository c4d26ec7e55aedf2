import type { z } from 'zod';
import type { PackDetails, packForm, receivePack } from '../../contract';
import { siblingsOf } from '../../core/health';
import type { WearShown } from '../../core/health';
import type { DeliveryId, Instant, PackId, PackTypeId } from '../../core/measure';
import { tagKey } from '../../core/pack';
import type { Actor } from '../../core/lifecycle';
import type { RecordDraft } from '../../core/record';
import { append, ledgersAsJson, NO_RECORDS, rebuildPack } from '../ledger';
import type { LedgerAsJson } from '../ledger';
import type { Entities } from '../platform/database';
import { jsonWith } from '../platform/jsonText';
import type { JsonText } from '../platform/jsonText';
import { announce } from '../platform/live';
import { Refused, isUniqueViolation, refusedField } from '../platform/problems';
import { Pack } from './entities';
import { formerTags, giveTag, packIdByTag, refuseTakenTag } from './tags';

/** A pack's facts and its whole ledger, oldest record first. */
interface PackInFull {
  readonly facts: Omit<PackDetails, 'siblings' | 'records'>;
  readonly ledger: LedgerAsJson;
}

/** These packs, as far as the register has them. */
export async function packsInFull(em: Entities, ids: readonly PackId[]): Promise<PackInFull[]> {
  const packs = await em.find(Pack, { id: { $in: [...ids] } });
  const tags = await formerTags(em, ids);
  const ledgers = await ledgersAsJson(em, ids);
  return packs.map((pack) => {
    const { tagKey: _key, ...facts } = { ...pack };
    return {
      facts: { ...(facts as Omit<PackInFull['facts'], 'formerTags'>), formerTags: tags.get(pack.id) ?? [] },
      ledger: ledgers.get(pack.id) ?? NO_RECORDS,
    };
  });
}

/** Everything a pack's page shows: its facts, its whole ledger, what others of its type taught. */
export async function packDetails(em: Entities, id: PackId): Promise<JsonText<PackDetails>> {
  const [pack] = await packsInFull(em, [id]);
  if (!pack) throw new Refused('not-found', { detail: 'There is no such pack.' });
  const siblings = siblingsOf(await shownByOthers(em, pack.facts.typeId, id));
  return jsonWith({ ...pack.facts, siblings }, { records: pack.ledger.json });
}

/** What the other packs of a type have shown of their wear, those long gone with them: only survivors would flatter it. */
async function shownByOthers(em: Entities, typeId: PackTypeId, but: PackId): Promise<readonly WearShown[]> {
  const rows: { wear: readonly WearShown[] }[] = await em.execute(
    `select s.wear from pack_state s join pack p on p.id = s.pack_id
      where p.type_id = ? and p.id <> ? and s.wear <> '[]'`,
    [typeId, but],
  );
  return rows.flatMap(({ wear }) => wear);
}

/** The details of whatever pack carries, or once carried, this tag. */
export async function packByTag(em: Entities, tag: string): Promise<JsonText<PackDetails>> {
  const id = await packIdByTag(em, tag);
  if (!id) throw new Refused('not-found', { detail: `No pack carries the tag ${tag}.` });
  return packDetails(em, id);
}

/** Takes a pack into the register and opens its ledger with the receipt. Sending it again is harmless: its id tells. */
export async function receive(
  em: Entities,
  form: z.output<typeof receivePack>,
  actor: Actor,
  now: Instant,
  deliveryId: DeliveryId | null = null,
): Promise<void> {
  const { id, recordId, receivedAt, source, before, ...facts } = form;
  const receipt: RecordDraft = {
    kind: 'received',
    id: recordId,
    at: receivedAt,
    payload: { source, placeId: facts.homePlaceId, ...(before ? { before } : {}) },
    supersedes: null,
  };
  await em.transactional(async (tx) => {
    if ((await tx.count(Pack, { id })) === 0) {
      await refuseUnknown(tx, facts);
      await refuseTakenTag(tx, facts.tag);
      tx.create(Pack, { ...facts, id, tagKey: tagKey(facts.tag), deliveryId, version: 1 });
      await flushTagged(tx);
      await giveTag(tx, id, facts.tag, receivedAt);
    }
    await append(tx, id, [receipt], () => ({ actor, recordedAt: now }));
  });
}

/** Two people may give one tag at the same moment; the database lets one through. */
async function flushTagged(em: Entities): Promise<void> {
  try {
    await em.flush();
  } catch (error) {
    if (isUniqueViolation(error)) throw refusedField('tag', 'Another pack took this tag just now.');
    throw error;
  }
}

/** Changes a pack's facts. Its records stay what they are; it is judged anew, since field packs and types have other limits. */
export async function editPack(
  em: Entities,
  id: PackId,
  form: z.output<typeof packForm>,
  madeFrom: number,
  now: Instant,
): Promise<JsonText<PackDetails>> {
  await em.transactional(async (tx) => {
    const pack = await tx.findOne(Pack, { id });
    if (!pack) throw new Refused('not-found', { detail: 'There is no such pack.' });
    if (pack.version !== madeFrom)
      throw new Refused('changed-meanwhile', { detail: `${pack.tag} was edited by somebody else.` });
    if (pack.typeId !== form.typeId) {
      throw refusedField('typeId', 'A pack keeps its type: its readings were taken and judged as that.');
    }
    await refuseUnknown(tx, form);
    await giveTag(tx, id, form.tag, now);
    tx.assign(pack, { ...form, tagKey: tagKey(form.tag) });
    await tx.flush();
    await rebuildPack(tx, id);
    await announce(tx, { about: 'register' });
  });
  return packDetails(em, id);
}

async function refuseUnknown(
  em: Entities,
  { typeId, homePlaceId }: Pick<z.output<typeof packForm>, 'typeId' | 'homePlaceId'>,
) {
  const [known]: { type: boolean; place: boolean }[] = await em.execute(
    `select exists(select 1 from pack_type where id = ?) as type,
            (?::uuid is null or exists(select 1 from place where id = ?::uuid)) as place`,
    [typeId, homePlaceId, homePlaceId],
  );
  if (!known?.type) throw refusedField('typeId', 'This pack type is not in the register.');
  if (!known.place) throw refusedField('homePlaceId', 'This place is not in the register.');
}
