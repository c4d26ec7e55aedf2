import { largeRegister } from '../../bench/largeRegister';
console.log(await largeRegister(process.env.DATABASE_URL!));
