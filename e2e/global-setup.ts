import { startStack } from './stack.ts';

export default async function setUp(): Promise<void> {
  await startStack();
}
