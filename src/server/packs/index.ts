export { Pack } from './entities';
export { PACK_ROW_COLUMNS, PACK_ROW_TABLES, packRows, stepColumn } from './rows';
export { giveTag, packIdByTag } from './tags';
export { receive } from './service';
