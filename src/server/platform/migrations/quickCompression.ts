const COLUMNS = ['findings', 'lapses', 'flying', 'bench', 'wear', 'tasks', 'needs'];

/** A PostgreSQL that was built without it, and a register older than a column, stay as they are. A backup does not say it, so as to be read anywhere. */
export const COMPRESSED_QUICKLY = `do $$ begin
    alter table pack_state ${COLUMNS.map((column) => `alter column ${column} set compression lz4`).join(', ')};
  exception when feature_not_supported or invalid_parameter_value or undefined_column then null;
  end $$`;
