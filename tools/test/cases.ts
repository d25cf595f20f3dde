/** Random cases of property tests follow from one number: `CASE_SEED=7 npx vitest run --project unit` tries those of another. */
import fc from 'fast-check';

fc.configureGlobal({ seed: Number(process.env['CASE_SEED']) });
