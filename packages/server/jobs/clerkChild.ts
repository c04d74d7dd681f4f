/** The process in which a clerk works. */
import { makeServices } from '../app/services.ts';
import { runErrand, type Errand } from './clerk.ts';
import { answerOrders } from './warm.ts';

let services: ReturnType<typeof makeServices> | undefined;
answerOrders(async ({ settings, ...errand }: Errand) =>
  runErrand((services ??= makeServices(settings, { connections: 2 })), errand),
);
