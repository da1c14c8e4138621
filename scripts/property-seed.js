// Property tests draw the same examples in every ordinary run, new ones in the long run.
import fc from 'fast-check';

if (!process.env.MERIDIEM_LONG) fc.configureGlobal({ seed: 20_261_123 });
