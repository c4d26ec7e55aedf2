import { benchAppend } from '../../bench/append';
await benchAppend(process.env.DATABASE_URL!);
