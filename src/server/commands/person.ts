import type { PersonId } from '../../core/measure';
import { openRegister } from '../app';
import { logged, note } from '../log';
import { endFactors } from '../people/factors';
import { makeSignInLink } from '../people/signInLinks';
import { run } from './run';

const USAGE = `Usage: person custodian SIGN-IN-NAME   (DATABASE_URL names the register)
Makes this person an active custodian and prints a link to choose a password with: for when no custodian can come in any more.
`;

/** Lets a custodian in from the machine itself, where nobody who could do it in the application is left. */
async function main([command, login]: readonly string[]): Promise<number> {
  const url = process.env.DATABASE_URL;
  if (!url || command !== 'custodian' || !login) {
    process.stderr.write(USAGE);
    return 2;
  }
  const database = await openRegister(url);
  try {
    const em = database.entities();
    const [person] = await em.execute<{ id: PersonId; name: string }[]>(
      'select id, name from person where login = ?',
      [login.toLowerCase()],
    );
    if (!person) {
      process.stderr.write(`Nobody signs in as ${login}.\n`);
      return 1;
    }
    const here = { by: null, at: Date.now(), through: null };
    await logged(em, { did: 'changed', of: 'person' }, here, person.id, (tx) =>
      tx.execute(`update person set role = 'custodian', active = true, version = version + 1 where id = ?`, [
        person.id,
      ]),
    );
    await endFactors(em, person.id);
    const { secret } = await makeSignInLink(em, person.id, null, Date.now());
    await note(em, {
      ...{ ...here, did: 'made-link', subject: 'person' },
      ...{ subjectId: person.id, name: person.name, changes: { by: [null, 'a command on the server'] } },
    });
    process.stdout.write(
      `${person.name} is a custodian. Their old password, second factor and sessions are over.\nWithin three days, open this page of the register and choose a password: /welcome#${secret}\n`,
    );
    return 0;
  } finally {
    await database.close();
  }
}

run(main);
