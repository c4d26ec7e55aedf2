export { Craft } from './entities';
export { craftAnswers } from './craft';
export { daysToCome } from './days';
