// Passwords: kept as argon2id hashes only; those that everybody tries first are refused.
import { hash, verify } from '@node-rs/argon2';
import { refused } from '../../errors.ts';

/** Source: OWASP Password Storage Cheat Sheet, argon2id minimum. */
const ARGON2ID = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, ARGON2ID);

export const passwordFits = (passwordHash: string, password: string): Promise<boolean> =>
  verify(passwordHash, password);

/** Unknown addresses take as long as wrong passwords. */
let decoy: Promise<string> | null = null;
export const decoyHash = (): Promise<string> => (decoy ??= hashPassword('no such account'));

/** Of ten characters or more, and tried by everybody: rows of keys, counting, and the usual words with a tail. */
const COMMON = new Set(
  [
    '1234567890 0123456789 12345678910 123456789a 1234567891 0987654321 9876543210 1234512345 1122334455 123123123123',
    'qwertyuiop qwertyuiop1 qwerty12345 qwerty123456 1q2w3e4r5t 1q2w3e4r5t6y 1qaz2wsx3edc zaq12wsxcde3 asdfghjkl1 asdfghjkl;',
    'qazwsxedcrfv zxcvbnm123 password12 password123 password1234 password12345 passw0rd12 passw0rd123 p@ssw0rd12 p@ssword123',
    'mypassword mypassword1 letmein123 letmein1234 welcome123 welcome1234 iloveyou12 iloveyou123 administrator admin12345',
    'admin123456 changeme12 changeme123 sunshine12 sunshine123 princess12 princess123 football12 football123 baseball12',
    'baseball123 abcdefghij abcdefghijk abc1234567 abcd123456 abcd1234567 a123456789 aa12345678 q1w2e3r4t5 trustno1234',
    'superman123 batman12345 dragon12345 monkey12345 master12345 shadow12345 michael123 jennifer12 computer12 computer123',
    'internet12 starwars12 starwars123 whatever12 whatever123 observatory telescope1 telescope12 telescope123 astronomy1 astronomy12',
    'astronomy123 astrophoto stargazing nightsky12 milkyway12 milkyway123 andromeda1 andromeda12',
  ].flatMap((line) => line.split(' ')),
);

/** @throws VALUE_REFUSED at `field` for a password that a stranger would try */
export function requireUncommonPassword(password: string, field: string): void {
  if (new Set(password).size < 3)
    throw refused(field, 'A password of one or two characters repeated is guessed at once');
  if (COMMON.has(password.toLowerCase()))
    throw refused(field, 'This password is among those that everybody tries first');
}
