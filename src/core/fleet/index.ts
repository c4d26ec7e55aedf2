export type { FieldPack, FurtherFlights } from './refills';
export { FIELD_EFFICIENCY, furtherFlights, refills } from './refills';
export type { Rotation, RotationAnswer } from './rotation';
export { rotationByFormula, rotationBySimulation } from './rotation';
