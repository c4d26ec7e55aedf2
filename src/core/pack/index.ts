export type { PlaceTemperature } from './climate';
export type { DutyClass, PackFacts, PackTypeFacts, SmartSettings } from './pack';
export { DUTY_CLASSES, cellsLabel, wattHours } from './pack';
export { TAG_PATTERN, tagKey } from './tag';
export { nextTag, tagSeries } from './series';
