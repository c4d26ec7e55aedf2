import { useEffect } from 'react';
import { v4 as newPage } from 'uuid';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import type { DeviceAnswer, InstrumentAnswer, PackTypeAnswer } from '../../../contract';
import { offerOf } from '../../../core/instruments';
import type { Offer } from '../../../core/instruments';
import type { DeviceId, DeviceReadingId } from '../../../core/measure';
import { ask } from '../../app/api';
import { useDevices } from '../../app/devices';
import { KEYS, queryClient, useRegister } from '../../app/queries';

/** What a meter put into a field, and the text it put there: a hand that changes the text has read something else. */
export interface FromMeter {
  readonly deviceId: DeviceId;
  readonly readingId: DeviceReadingId;
  readonly text: string;
  readonly instrument: Pick<InstrumentAnswer, 'name' | 'errorMv'>;
}

/** This page to the register, so that it knows which of several open pages has a meter; a reload stays the same page. */
const usePage = create<{
  readonly page: string;
  /** What was plugged in when a reading was saved, and the pack it was saved for. */
  readonly saved: { readonly readingId: DeviceReadingId; readonly tag: string } | null;
}>()(
  persist(
    (): { page: string; saved: { readingId: DeviceReadingId; tag: string } | null } => ({
      page: newPage(),
      saved: null,
    }),
    {
      name: 'malle.page',
      storage: createJSONStorage(() => sessionStorage),
    },
  ),
);

/** What a field may know of the meters. */
export interface MeterView {
  /** The meter this page has; null for none. */
  readonly mine: DeviceAnswer | null;
  /** A meter that is connected and that this page might have. */
  readonly other: DeviceAnswer | null;
  readonly offer: Offer;
  /** Another pack is on the meter than the one whose reading stands in the field. */
  readonly isOther: boolean;
  /** What is plugged in has been saved for this pack. */
  readonly isSaved: boolean;
  /** Has the meter's readings come to this page. */
  readonly take: () => Promise<void>;
  /** Puts what the meter shows now into the field. */
  readonly read: () => void;
}

/**
 * What this page's meter shows of the pack whose field is open. It fills an empty field and follows the meter while the same pack is on it;
 * it never changes what a hand has typed, nor what another plugging-in has put there.
 * @param settled the field is waiting for an answer about what stands in it: it is left alone
 */
export function useMeter(
  pack: { readonly tag: string },
  type: Pick<PackTypeAnswer, 'chemistry' | 'series'>,
  field: { readonly text: string; readonly from: FromMeter | null; readonly settled: boolean },
  fill: (from: FromMeter) => void,
): MeterView {
  const meters = useDevices().filter(({ kind, endedAt }) => kind === 'meter' && endedAt === null);
  const { page, saved } = usePage();
  const instruments = useRegister().data?.instruments ?? [];
  const mine = meters.find(({ takenPage }) => takenPage === page) ?? null;
  const other = meters.find(({ isOpen, takenPage }) => isOpen && takenPage !== page) ?? null;
  const shown = mine?.isOpen ? mine.meter : null;
  const readingId = shown?.readingId ?? null;
  const offer = offerOf(
    type,
    shown && readingId && { contact: readingId, cellsMv: shown.cellsMv, packMv: shown.packMv },
    saved !== null && saved.readingId === readingId && saved.tag !== pack.tag ? saved.tag : null,
  );
  const instrument = instruments.find(({ id }) => id === mine?.instrumentId) ?? null;
  const text =
    offer.code === 'fits'
      ? offer.cellsMv.map((mv) => (mv / 1000).toFixed(3)).join(' ')
      : offer.code === 'fits-total'
        ? (offer.packMv / 1000).toFixed(2)
        : null;
  const isFilled = field.from !== null && field.from.text === field.text;
  const isOther = isFilled && readingId !== null && field.from.readingId !== readingId && text !== null;
  const isSavedHere = saved !== null && saved.readingId === readingId && saved.tag === pack.tag;
  const read = () => {
    if (!mine || !instrument || !readingId || text === null) return;
    fill({
      deviceId: mine.id,
      readingId,
      text,
      instrument: { name: instrument.name, errorMv: instrument.errorMv },
    });
  };
  const wants =
    text !== null &&
    !field.settled &&
    (field.text.trim() === '' ? !isSavedHere : isFilled && !isOther && field.text !== text);
  useEffect(() => {
    if (wants) read();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is read is all in these three
  }, [wants, text, readingId]);
  return {
    mine,
    other,
    offer,
    isOther,
    isSaved: isSavedHere,
    read,
    take: async () => {
      if (!other) return;
      await ask('POST /devices/:id/take', { params: { id: other.id }, body: { page } });
      await queryClient.invalidateQueries({ queryKey: KEYS.devices });
    },
  };
}

/** What the meter put into the field, while that still stands there. */
export function stillMeasured(from: FromMeter | null | undefined, text: string): FromMeter | null {
  return from?.text === text ? from : null;
}

/**
 * A pack has been saved, by the meter or by hand: what is on this page's meter now is that pack, and what the meter goes on showing is no
 * reading of the next one.
 */
export function savedWithMeter(tag: string): void {
  const { page } = usePage.getState();
  const devices = queryClient.getQueryData<readonly DeviceAnswer[]>(KEYS.devices) ?? [];
  const readingId = devices.find(({ takenPage }) => takenPage === page)?.meter?.readingId;
  if (readingId) usePage.setState({ saved: { readingId, tag } });
}
