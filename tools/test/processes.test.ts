/** Folders that are one process's own, and processes that come back and that end with their starter. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, describe, expect, it } from 'vitest';
import { endsWithStarter, isAlive, supervise, takeFolder } from '../processes.mjs';

const folders: string[] = [];
const newFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), 'umbo-processes-'));
  folders.push(folder);
  return folder;
};
afterAll(() => folders.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

const ended = (child: ChildProcess): Promise<unknown> => new Promise((done) => child.once('exit', done));

describe('a folder', () => {
  it('is taken once, by whoever is there, who is named to the next with where it answers', () => {
    const folder = newFolder();
    const giveBack = takeFolder(folder, { base: 'http://127.0.0.1:4180' });
    expect(() => takeFolder(folder, {})).toThrow(new RegExp(`runs on .* at http://127.0.0.1:4180 \\(process ${process.pid}\\)`));
    giveBack();
    takeFolder(folder, {})();
    expect(readdirSync(folder)).toEqual([]);
  });

  it('is free again when its holder is gone, also when its number belongs to another process by now', async () => {
    const child = spawn(process.execPath, ['-e', '']);
    await ended(child);
    for (const holder of [
      { pid: child.pid, begin: '1' },
      { pid: process.pid, begin: '1' }, // this process began at another time
      'cut sho',
    ]) {
      const folder = newFolder();
      writeFileSync(join(folder, 'in-use.json'), JSON.stringify(holder).slice(0, typeof holder === 'string' ? 4 : undefined));
      takeFolder(folder, {});
      expect(JSON.parse(readFileSync(join(folder, 'in-use.json'), 'utf8'))).toMatchObject({ pid: process.pid });
    }
  });

  it('goes to exactly one of several that want it at the same moment', async () => {
    const folder = newFolder();
    const script = `import { takeFolder } from ${JSON.stringify(new URL('../processes.mjs', import.meta.url).href)};
      try { takeFolder(${JSON.stringify(folder)}, {}); process.stdout.write('mine'); setTimeout(() => {}, 4000); } catch { process.exit(3); }`;
    const children = Array.from({ length: 5 }, () => spawn(process.execPath, ['--input-type=module', '-e', script]));
    const answers = await Promise.all(
      children.map(
        (child) =>
          new Promise<string>((done) => {
            child.stdout.once('data', () => done('mine'));
            child.once('exit', (code) => done(String(code)));
          }),
      ),
    );
    for (const child of children) child.kill('SIGKILL');
    expect(answers.sort()).toEqual(['3', '3', '3', '3', 'mine']);
  });
});

describe('what is kept running', () => {
  it('comes back when it ends by itself, with a sentence, and stays away when it is closed', async () => {
    const said: string[] = [];
    let starts = 0;
    let child: ChildProcess | null = null;
    const kept = supervise(
      'the test',
      () => {
        starts++;
        child = spawn(process.execPath, ['-e', 'setTimeout(() => {}, 60000)']);
        return Promise.resolve(child);
      },
      (words: string) => said.push(words),
    );
    await kept.run();
    const first = kept.pid()!;
    process.kill(first, 'SIGKILL');
    await expect.poll(() => starts).toBe(2);
    expect(said).toEqual(['umbo: the test ended (SIGKILL); starting it again in 0.5 s.']);
    await expect.poll(() => kept.pid()).not.toBe(first);
    const last = kept.close()!;
    const gone = ended(last);
    last.kill('SIGKILL');
    await gone;
    await sleep(700);
    expect(starts).toBe(2);
  });

  it('waits longer each time that it ends at once, also when it cannot even be started', async () => {
    const said: string[] = [];
    let starts = 0;
    const kept = supervise(
      'the test',
      () => {
        if (++starts === 2) return Promise.reject(new Error('no room'));
        return Promise.resolve(spawn(process.execPath, ['-e', starts === 1 ? '' : 'setTimeout(() => {}, 60000)']));
      },
      (words: string) => said.push(words),
    );
    await kept.run();
    await expect.poll(() => starts).toBe(3);
    expect(said).toEqual([
      'umbo: the test ended (0); starting it again in 0.5 s.',
      'umbo: the test ended (no room); starting it again in 1 s.',
    ]);
    kept.close()!.kill('SIGKILL');
  });
});

describe('a process that ends with its starter', () => {
  it('does nothing when its starter went before it could ask the kernel for that', async () => {
    const [command, args] = endsWithStarter(process.execPath, ['-e', "process.stdout.write('ran')"]) as [string, string[]];
    const run = async (list: string[]): Promise<string> => {
      const child = spawn(command, list);
      let out = '';
      child.stdout.on('data', (data: Buffer) => (out += data.toString()));
      await ended(child);
      return out;
    };
    expect(await run(args)).toBe('ran');
    // As when its parent is another process by now.
    expect(await run(args.map((arg) => (arg === String(process.pid) ? '1' : arg)))).toBe('');
  });

  it('is gone soon after its starter was killed with -9', async () => {
    const script = `import { startProcess } from ${JSON.stringify(new URL('../processes.mjs', import.meta.url).href)};
      const child = startProcess(process.execPath, ['-e', 'setTimeout(() => {}, 600000)'], { stdio: 'ignore' });
      process.stdout.write(String(child.pid)); setTimeout(() => {}, 60000);`;
    const starter = spawn(process.execPath, ['--input-type=module', '-e', script]);
    const pid = await new Promise<number>((done) => starter.stdout.once('data', (data: Buffer) => done(Number(data.toString()))));
    await expect.poll(() => isAlive(pid)).toBe(true);
    await sleep(300);
    starter.kill('SIGKILL');
    await expect.poll(() => isAlive(pid)).toBe(false);
  });
});
