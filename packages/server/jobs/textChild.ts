/** The process in which single texts and drawings are worked on that are very long. */
import work, { type Task } from '../threads/worker.ts';
import { answerOrders } from './warm.ts';

answerOrders((task: Task) => Promise.resolve(work(task)));
