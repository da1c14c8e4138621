import { stopStack } from './stack.ts';

export default async function tearDown(): Promise<void> {
  await stopStack();
}
