export { Pack } from './entities';
export { PACK_ROW_COLUMNS, packRows, stepColumn } from './rows';
export { giveTag, packIdByTag } from './tags';
export { receive } from './service';
