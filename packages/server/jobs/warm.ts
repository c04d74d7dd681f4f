import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const isSource = import.meta.url.endsWith('.ts');

/** Starts a child process of this folder, compiled or from its source. */
export function startChild(name: string): ChildProcess {
  const file = fileURLToPath(new URL(`./${name}.${isSource ? 'ts' : 'js'}`, import.meta.url));
  return fork(file, { execArgv: isSource ? ['--conditions=source', '--import', 'tsx'] : ['--enable-source-maps'], stdio: ['ignore', 'inherit', 'inherit', 'ipc'] });
}
