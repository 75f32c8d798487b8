/**
 * Kills, fills, locks and takes away at random while people work, and looks whether anything is lost.
 * node tests/torment/torment.mjs [rounds] [--seed N] [--write]
 */
import { randomUUID } from 'node:crypto';
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import { basename, join } from 'node:path';
import { root } from '../browser/cossel.mjs';

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
/** Seconds after which whatever was going on has to be over, or to have said why not. */
const SETTLED = 150;
/** Megabytes of the disk that is filled. */
const DISK = 256;

/** Mulberry32: the same seed, the same rounds as far as processes allow. */
function chance(seed) {
  let a = seed;
  const next = () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return { next, whole: (n) => Math.floor(next() * n), one: (list) => list[Math.floor(next() * list.length)] };
}

export class Torment {
  faults = {};
  lost = [];
  edits = 0;
  uploads = 0;
  deliveries = 0;
  follows = 0;
  slowest = 0;

  constructor(seed, port) {
    this.dice = chance(seed);
    this.port = port;
    this.url = `http://127.0.0.1:${port}`;
    this.run = `/tmp/cossel-${userInfo().uid}-${port}`;
    this.folder = mkdtempSync(join(tmpdir(), 'torment-'));
    this.data = join(this.folder, 'data');
    mkdirSync(this.data);
    this.mounted = userInfo().uid === 0 && spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}m`, 'tmpfs', this.data]).status === 0;
    const fake = '/usr/lib/x86_64-linux-gnu/faketime/libfaketime.so.1';
    this.clock = existsSync(fake) ? join(this.folder, 'clock') : null;
    this.env = { ...process.env, PORT: String(port), COSSEL_DATA: this.data, COSSEL_CACHE: join(this.folder, 'cache'), COSSEL_WORKERS: '1' };
    if (this.clock) {
      writeFileSync(this.clock, '+0');
      Object.assign(this.env, { LD_PRELOAD: fake, FAKETIME_TIMESTAMP_FILE: this.clock, FAKETIME_CACHE_DURATION: '1', FAKETIME_DISABLE_SHM: '1', FAKETIME_DONT_FAKE_MONOTONIC: '1' });
    }
  }

  async start() {
    this.process = spawn('./cossel', ['start'], { cwd: root, env: this.env, detached: true, stdio: ['ignore', 'ignore', process.env.TELL ? 'inherit' : 'ignore'] });
    await this.answers(90);
  }

  async answers(seconds = 60) {
    const end = Date.now() + seconds * 1000;
    while (Date.now() < end) {
      try {
        if ((await fetch(`${this.url}/api/kinds`, { signal: AbortSignal.timeout(3000) })).ok) return;
      } catch {
        // Not yet.
      }
      await wait(200);
    }
    throw new Error(`the server does not answer after ${seconds} s`);
  }

  /** One request; status 0 when the server could not be reached or hung up. */
  async ask(method, path, body, raw) {
    try {
      const response = await fetch(`${this.url}/api${path}`, {
        method,
        headers: { Accept: 'application/json', 'X-Bench': 'torment', ...(body === undefined ? {} : { 'Content-Type': raw ? 'application/octet-stream' : 'application/json' }) },
        ...(body === undefined ? {} : { body: raw ? body : JSON.stringify(body) }),
        signal: AbortSignal.timeout(40_000),
      });
      const text = await response.text();
      return { status: response.status, body: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text };
    } catch {
      return { status: 0, body: null };
    }
  }

  /** Until it is answered for: what the front end does with a change that may go well later. */
  async insist(method, path, body, raw) {
    for (let n = 0; n < 80; n++) {
      const answer = await this.ask(method, path, body, raw);
      if (answer.status !== 0 && answer.status < 500) return answer;
      await wait(500);
    }
    throw new Error(`${method} ${path} is never answered`);
  }

  clip(name, filter) {
    const file = join(this.folder, name);
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', `testsrc2=size=192x108:rate=24:duration=1${filter}`, '-c:v', 'ffv1', '-pix_fmt', 'yuv420p', '-y', file], { env: process.env });
    return readFileSync(file);
  }

  async bringIn(bytes, name) {
    const { body: upload } = await this.insist('POST', `/jobs/${this.job}/uploads`, { name, size: bytes.length });
    const half = Math.floor(bytes.length / 2);
    let sent = 0;
    while (sent < bytes.length) {
      const answer = await this.insist('PUT', `/uploads/${upload.id}?offset=${sent}`, bytes.subarray(sent, sent < half ? half : bytes.length), true);
      if (answer.status !== 200) throw new Error(`a piece of ${name} is refused: ${answer.status} ${JSON.stringify(answer.body)}`);
      sent = answer.body.received;
    }
    const shot = await this.insist('POST', `/uploads/${upload.id}/shot`, {});
    if (shot.status >= 300) throw new Error(`${name} does not become a shot: ${shot.status} ${JSON.stringify(shot.body)}`);
    return shot.body.id;
  }

  async shot(id) {
    return (await this.insist('GET', `/shots/${id}`)).body;
  }

  /** Waits until something is over. */
  async over(what, check) {
    const began = Date.now();
    for (;;) {
      const found = await check();
      if (found) {
        this.slowest = Math.max(this.slowest, (Date.now() - began) / 1000);
        return found;
      }
      if (Date.now() - began > SETTLED * 1000) throw new Error(`${what} is not over after ${SETTLED} s`);
      await wait(300);
    }
  }

  async prepare() {
    this.job = (await this.insist('POST', '/jobs', { name: 'Torment' })).body.id;
    this.bytes = this.clip('work.mkv', '');
    this.other = this.clip('other.mkv', ',hue=h=90');
    this.work = await this.bringIn(this.bytes, 'work.mkv');
    this.steady = await this.bringIn(this.bytes, 'steady.mkv');
    for (const id of [this.work, this.steady]) {
      await this.over('reading', async () => (await this.shot(id)).state === 'ready');
      const { body } = await this.insist('GET', `/shots/${id}/recipe`);
      const face = { id: 'face', name: 'Face', outline: { at: 0, shapes: [{ id: 's', kind: 'ellipse', centre: [0.9, 0.5], radii: [0.3, 0.3], featherOut: 0.1 }] }, live: { from: 0, to: 23 }, touches: [{ id: 't', kind: 'exposure', stops: 0.5 }, { id: 'b', kind: 'blur', radius: 0.01 }] };
      await this.insist('PUT', `/shots/${id}/recipe`, { base: body.revision, label: 'Face', recipe: { ...body.recipe, assets: {}, areas: [face] } });
    }
    this.wanted = await this.delivered();
  }

  /** The pictures of a delivery of the shot that is never changed. */
  async delivered() {
    let { body: delivery } = await this.insist('POST', `/shots/${this.steady}/deliveries`, { format: 'ffv1', from: 0, to: 23, slip: randomUUID() });
    const id = delivery.id;
    for (let again = 0; ; again++) {
      delivery = await this.over('a delivery', async () => (await this.insist('GET', '/deliveries')).body.find((d) => d.id === id && !['rendering', 'finishing'].includes(d.state)));
      if (delivery.state === 'done') break;
      if (again === 5 || !delivery.error) throw new Error(`a delivery is ${delivery.state}: ${delivery.error}`);
      // It said why; that is taken away by now.
      await this.insist('POST', `/deliveries/${id}/retry`);
    }
    const file = join(this.folder, 'delivered.mkv');
    for (let again = 0; ; again++) {
      try {
        const answer = await fetch(`${this.url}/api/deliveries/${id}/file`);
        if (!answer.ok) throw new Error(`the file of a delivery is refused: ${answer.status}`);
        writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
        break;
      } catch (reason) {
        // Ended in the middle of it.
        if (again === 20) throw reason;
        await wait(500);
      }
    }
    const md5 = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'framemd5', '-'], { env: process.env }).toString();
    await this.insist('DELETE', `/deliveries/${id}`);
    this.deliveries++;
    return md5.split('\n').filter((line) => !line.startsWith('#')).join('\n');
  }

  /** Edits one after the other; what was acknowledged has to be there for ever. */
  async edit(n) {
    let state = (await this.insist('GET', `/shots/${this.work}/recipe`)).body;
    for (let k = 0; k < n; k++) {
      const label = `Edit ${++this.edits}`;
      const recipe = structuredClone(state.recipe);
      recipe.assets = Array.isArray(recipe.assets) ? {} : recipe.assets;
      recipe.areas[0].touches[0].stops = (this.edits % 100) / 50;
      const answer = await this.ask('PUT', `/shots/${this.work}/recipe`, { base: state.revision, label, recipe });
      if (answer.status === 200) {
        this.acknowledged.push(label);
        state = answer.body;
      } else if (answer.status === 0 || answer.status >= 500 || answer.status === 409) {
        // One whose answer was lost may be taken after all, behind what was read since: then the next is told so.
        await this.answers();
        state = (await this.insist('GET', `/shots/${this.work}/recipe`)).body;
      } else throw new Error(`an edit is refused: ${answer.status} ${JSON.stringify(answer.body)}`);
    }
  }

  async follow() {
    const begun = await this.insist('POST', `/shots/${this.work}/follows`, { area: 'face', start: 5, from: 0, to: 20 });
    if (begun.status === 409) return;
    const id = begun.body.id;
    const follow = await this.over('a follow', async () => (await this.insist('GET', `/shots/${this.work}/follows`)).body.find((f) => f.id === id && !['waiting', 'following'].includes(f.state)));
    if (follow.state !== 'done' && !follow.message) throw new Error(`a follow is ${follow.state} without a word`);
    this.follows++;
  }

  async upload() {
    const name = `upload${++this.uploads}`;
    const id = await this.bringIn(this.other, `${name}.mkv`);
    let shot = await this.over('an upload', async () => {
      const found = await this.shot(id);
      return found.state !== 'reading' && found;
    });
    for (let again = 0; shot.state === 'failed' && shot.canBeReadAgain && again < 5; again++) {
      await this.insist('POST', `/shots/${id}/read`);
      shot = await this.over('an upload', async () => {
        const found = await this.shot(id);
        return found.state !== 'reading' && found;
      });
    }
    const { body: job } = await this.insist('GET', `/jobs/${this.job}`);
    const same = job.shots.filter((s) => s.name === name);
    if (same.length !== 1) throw new Error(`${name} became ${same.length} shots`);
    if (shot.state !== 'ready' || shot.error || shot.to !== 23) throw new Error(`${name} is ${shot.state}, ${shot.error}`);
    await this.insist('DELETE', `/shots/${id}`);
  }

  async judge() {
    await this.insist('POST', `/shots/${this.steady}/telltales`);
    await this.over('a judging', async () => {
      const { body } = await this.insist('GET', `/shots/${this.steady}/telltales`);
      return body.findings !== null || body.message;
    });
  }

  pids(pattern) {
    const found = spawnSync('pgrep', ['-f', pattern]).stdout.toString().trim();
    return found === '' ? [] : found.split('\n').map(Number).filter((pid) => {
      try {
        // Workers of the web server and of PHP say nothing of themselves; their parents do.
        const parent = readFileSync(`/proc/${pid}/stat`).toString().split(') ')[1].split(' ')[1];
        return [pid, parent].some((one) => readFileSync(`/proc/${one}/environ`).toString().includes(this.data) || readFileSync(`/proc/${one}/cmdline`).toString().includes(this.run));
      } catch {
        return false;
      }
    });
  }

  killers = Object.fromEntries(
    [['a web process', 'nginx: worker'], ['the web server', 'nginx: master|nginx -e'], ['PHP answering', 'php-fpm: pool'], ['PHP', 'php-fpm: master'], ['the queue of pictures', 'cossel:turns'], ['the keeper', 'cossel:keep'], ['a worker', 'queue:work'], ['ffmpeg', 'ffmpeg|ffprobe'], ['the supervisor', 'supervisord -c']]
      .map(([name, pattern]) => [name, () => {
        const pids = this.pids(pattern);
        if (pids.length > 0) process.kill(this.dice.one(pids), 'SIGKILL');
      }]),
  );

  otherFaults = {
    'everything': async () => {
      process.kill(-this.process.pid, 'SIGKILL');
      await wait(300);
      await this.start();
    },
    'a stop and a start': async () => {
      const gone = new Promise((resolve) => this.process.once('exit', resolve));
      this.process.kill('SIGTERM');
      await gone;
      await this.start();
    },
    'the database locked for 20 s': async () => {
      const lock = spawn('php', ['-r', `$db = new PDO('sqlite:' . $argv[1]); $db->exec('PRAGMA busy_timeout=5000'); $db->exec('BEGIN IMMEDIATE'); sleep(20);`, join(this.data, 'cossel.sqlite')], { env: process.env, stdio: 'ignore' });
      await new Promise((resolve) => lock.on('exit', resolve));
    },
    'the disk full': async () => {
      const file = join(this.data, 'fill');
      spawnSync('dd', ['if=/dev/zero', `of=${file}`, 'bs=64k', 'count=100000'], { env: process.env, stdio: 'ignore' });
      await wait(3000);
      rmSync(file, { force: true });
    },
    'the footage taken away': async () => {
      const kept = join(this.data, 'footage');
      renameSync(kept, `${kept}.away`);
      await wait(1500);
      if (existsSync(kept)) {
        for (const name of readdirSync(kept)) if (!existsSync(join(`${kept}.away`, name))) renameSync(join(kept, name), join(`${kept}.away`, name));
        rmSync(kept, { recursive: true });
      }
      renameSync(`${kept}.away`, kept);
    },
    'the clock an hour on': async () => writeFileSync(this.clock, '+3600'),
    'the clock an hour back': async () => writeFileSync(this.clock, '-3600'),
    'the clock right again': async () => writeFileSync(this.clock, '+0'),
  };

  async fault() {
    // Kills most of the time: they are quick, and there are many places to die at.
    const slow = Object.keys(this.otherFaults).filter((name) => (this.mounted || name !== 'the disk full') && (this.clock || !name.startsWith('the clock')));
    const name = this.dice.next() < 0.8 ? this.dice.one(Object.keys(this.killers)) : this.dice.one(slow.filter((n) => !n.includes('20 s') || this.dice.next() < 0.3));
    this.faults[name] = (this.faults[name] ?? 0) + 1;
    if (process.env.TELL) console.error('  ', name);
    await (this.killers[name] ?? this.otherFaults[name])();
    return name;
  }

  /** Nothing under a name it should not have; seen until it is so, at the most a minute and a half. */
  async tidy() {
    const deliveries = (await this.insist('GET', '/deliveries')).body;
    if (deliveries.length > 0) throw new Error(`${deliveries.length} deliveries nobody ordered`);
    await this.over('clearing up', async () => {
      const names = (folder) => (existsSync(join(this.data, folder)) ? readdirSync(join(this.data, folder)) : []);
      const left = [...names('footage').filter((n) => n.includes('.') && !n.endsWith('.lock')), ...names('deliveries')];
      return left.length === 0;
    });
  }

  async round(k) {
    this.acknowledged = [];
    const acts = { edit: () => this.edit(6), upload: () => this.upload(), deliver: () => this.delivered().then((md5) => { if (md5 !== this.wanted) throw new Error('a delivery has other pictures'); }), follow: () => this.follow(), judge: () => this.judge() };
    const names = Object.keys(acts).filter(() => this.dice.next() < 0.45);
    if (names.length === 0) names.push('edit', 'upload');
    const told = [];
    const running = names.map((name) => acts[name]().catch((reason) => told.push(`${name}: ${reason.message}`)));
    const faults = [];
    for (let n = 1 + this.dice.whole(3); n > 0; n--) {
      await wait(this.dice.whole(900));
      faults.push(await this.fault());
    }
    await Promise.all(running);
    await this.answers();
    if (this.acknowledged.length > 0) {
      const { body: history } = await this.insist('GET', `/shots/${this.work}/history`);
      const labels = new Set(history.map((r) => r.label));
      for (const label of this.acknowledged) if (!labels.has(label)) told.push(`${label} was acknowledged and is lost`);
    }
    if (k % 20 === 0) await this.tidy().catch((reason) => told.push(reason.message));
    for (const what of told) {
      this.lost.push(what);
      console.error(`round ${k} (${faults.join(', ')}): ${what}`);
    }
  }

  async end() {
    try {
      this.process.kill('SIGTERM');
      await wait(2500);
    } finally {
      if (this.mounted) spawnSync('umount', ['-l', this.data]);
      rmSync(this.folder, { recursive: true, force: true });
    }
  }

  summary(rounds, minutes) {
    const db = statSync(join(this.data, 'cossel.sqlite')).size;
    return [
      ['Rounds', rounds], ['Lost or wrong', this.lost.length], ['Edits', this.edits], ['Uploads', this.uploads], ['Deliveries, the same pixels each', this.deliveries], ['Follows', this.follows],
      ['Longest until something was over', `${this.slowest.toFixed(0)} s`], ['Minutes', minutes.toFixed(0)], ['Database at the end', `${(db / 1e6).toFixed(1)} MB`],
      ...Object.entries(this.faults).sort(([a], [b]) => a.localeCompare(b)).map(([name, n]) => [`Fault: ${name}`, n]),
    ];
  }
}

function write(rows) {
  const file = join(root, 'docs/reliability.md');
  const table = ['| What | How often |', '|---|---|', ...rows.map(([a, b]) => `| ${a} | ${b} |`)].join('\n');
  const text = readFileSync(file, 'utf8');
  const place = /(<!-- torment, written by the command -->\n)[\s\S]*?(<!-- end -->)/;
  if (!place.test(text)) throw new Error('docs/reliability.md has no place for it');
  writeFileSync(file, text.replace(place, `$1\n${new Date().toISOString().slice(0, 10)}\n\n${table}\n\n$2`));
}

if (basename(process.argv[1] ?? '') === 'torment.mjs') {
  const given = process.argv.slice(2);
  const at = given.indexOf('--seed');
  const seed = at < 0 ? Date.now() % 100000 : Number(given[at + 1]);
  const rounds = Number(given[0] ?? 20) || 20;
  const torment = new Torment(seed, Number(process.env.PORT ?? 8690));
  const began = Date.now();
  let done = 0;
  try {
    await torment.start();
    await torment.prepare();
    for (; done < rounds && !existsSync('/tmp/stop-torment'); done++) {
      await torment.round(done + 1);
      if ((done + 1) % 10 === 0) console.error(`${done + 1} rounds, ${torment.lost.length} lost or wrong`);
    }
    const rows = torment.summary(done, (Date.now() - began) / 60000);
    for (const [a, b] of rows) console.log(`${String(a).padEnd(40)} ${b}`);
    if (given.includes('--write')) write(rows);
  } finally {
    await torment.end();
  }
  process.exit(torment.lost.length === 0 ? 0 : 1);
}
