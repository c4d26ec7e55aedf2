export { Equipment, Instrument, PackType, Place, Recycler } from './entities';
export { placeAnswer } from './places';
export { recyclerAnswer } from './recyclers';
