import { seedGround } from './serving.ts';

/** Before all tests: makes the ground that each worker gets a copy of. */
export default seedGround;
