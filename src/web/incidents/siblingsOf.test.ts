import type { DeliveryId, PackTypeId } from '../../core/measure';
import { DAY_MS } from '../../core/measure';
import { aRow } from '../testing/rows';
import { siblingsOf } from './siblingsOf';

const SPRING = 'delivery-spring' as DeliveryId;
const AUTUMN = 'delivery-autumn' as DeliveryId;
const crashed = aRow('HX-01', { deliveryId: SPRING, verdict: 'hold' });
const tags = (...rows: ReturnType<typeof aRow>[]) =>
  siblingsOf([crashed], [crashed, ...rows]).map(({ tag }) => tag);

it('came in the same delivery, and are of the same type', () => {
  expect(
    tags(
      aRow('HX-02', { deliveryId: SPRING }),
      aRow('HX-03', { deliveryId: AUTUMN }),
      aRow('IQ-01', { deliveryId: SPRING, typeId: 'another' as PackTypeId }),
    ),
  ).toEqual(['HX-02']);
});

it('are not raised again where they are out of use: they are looked at anyway', () => {
  expect(
    tags(
      aRow('HX-02', { deliveryId: SPRING, verdict: 'hold' }),
      aRow('HX-03', { deliveryId: SPRING, verdict: 'retired' }),
      aRow('HX-04', { deliveryId: SPRING, verdict: 'watch' }),
    ),
  ).toEqual(['HX-04']);
});

it('received within a day count as one delivery where none was noted, on both sides', () => {
  const alone = aRow('HX-05', { receivedAt: 10 * DAY_MS });
  const found = siblingsOf(
    [alone],
    [
      alone,
      aRow('HX-06', { receivedAt: 10.9 * DAY_MS }),
      aRow('HX-07', { receivedAt: 11 * DAY_MS }),
      aRow('HX-08', { receivedAt: null }),
      aRow('HX-09', { receivedAt: 10 * DAY_MS, deliveryId: SPRING }),
    ],
  );
  expect(found.map(({ tag }) => tag)).toEqual(['HX-06']);
});

it('of several packs are the siblings of any, and none of them itself', () => {
  const other = aRow('IQ-01', { typeId: 'iq' as PackTypeId, deliveryId: AUTUMN });
  const rows = [
    crashed,
    other,
    aRow('HX-02', { deliveryId: SPRING }),
    aRow('IQ-02', { typeId: 'iq' as PackTypeId, deliveryId: AUTUMN }),
  ];
  expect(siblingsOf([crashed, other], rows).map(({ tag }) => tag)).toEqual(['HX-02', 'IQ-02']);
  expect(siblingsOf([], rows)).toEqual([]);
});
