/** Every migration, in order. Listed rather than found, so that what runs is what was reviewed. */
export const MIGRATION_NAMES = [
  '001_first_register',
  '002_whole_judgement',
  '003_inspections_and_rounds',
  '004_when_it_goes_wrong',
  '005_verdicts_that_stay_true',
  '006_wear_of_siblings',
  '007_books_in_and_out',
  '008_charging',
  '009_flying',
  '010_instruments',
  '011_packs_that_remember',
  '012_accounts',
  '013_register_log',
  '014_checkpoints',
  '015_second_factors',
  '016_written_late',
] as const;
