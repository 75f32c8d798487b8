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
  /** Edits that were answered for, by their labels: which touch they set, and to what. */
  acknowledged = new Map();
  edits = 0;
  merged = 0;
  carries = 0;
  bundles = 0;
  cuts = 0;
  backups = 0;
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
      // What is no fault of whoever asks has words and a number of its own: 503, 507. This is none of them.
      if (response.status === 500) this.wrong(`${method} ${path} answered 500: ${text.slice(0, 200)}`);
      return { status: response.status, body: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text };
    } catch {
      return { status: 0, body: null };
    }
  }

  wrong(what) {
    this.lost.push(what);
    console.error(what);
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

  /** Sends a file; null as its job for a bundle. */
  async send(bytes, name, job) {
    const { body: upload } = await this.insist('POST', job === null ? '/uploads' : `/jobs/${job}/uploads`, { name, size: bytes.length });
    const half = Math.floor(bytes.length / 2);
    let sent = 0;
    while (sent < bytes.length) {
      const answer = await this.insist('PUT', `/uploads/${upload.id}?offset=${sent}`, bytes.subarray(sent, sent < half ? half : bytes.length), true);
      if (answer.status !== 200) throw new Error(`a piece of ${name} is refused: ${answer.status} ${JSON.stringify(answer.body)}`);
      sent = answer.body.received;
    }
    return upload.id;
  }

  async bringIn(bytes, name) {
    const upload = await this.send(bytes, name, this.job);
    const shot = await this.insist('POST', `/uploads/${upload}/shot`, {});
    if (shot.status >= 300) throw new Error(`${name} does not become a shot: ${shot.status} ${JSON.stringify(shot.body)}`);
    return shot.body.id;
  }

  /** What became of an upload that is taken in in the background. */
  async takenIn(upload, kind, how) {
    const begun = await this.insist('POST', `/uploads/${upload}/${kind}`, how);
    if (begun.status !== 200) throw new Error(`a ${kind} is refused: ${begun.status} ${JSON.stringify(begun.body)}`);
    const done = await this.over(`a ${kind}`, async () => {
      const { body } = await this.insist('GET', `/uploads/${upload}`);
      return body.told?.state !== 'reading' && body.told;
    });
    if (done.state !== 'done') throw new Error(`a ${kind} is not taken in: ${done.message}`);
    return done.told;
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
      await this.insist('PUT', `/shots/${id}/recipe`, { base: body.revision, label: 'Face', recipe: { ...body.recipe, assets: {}, base: [{ id: 'l', kind: 'exposure', stops: 0.1 }], areas: [face] } });
    }
    // Both were brought in with the same content: it is known by the name that came first.
    this.film = (await this.shot(this.work)).footage.name;
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

  /**
   * Edits one after the other; what was acknowledged has to be there for ever, as it was set. Two of them edit the same shot at once,
   * each another touch: both hold.
   *
   * @param touch  number of the touch that is this client's own
   * @param set    gives it a value that none had before
   */
  async edit(n, touch, set) {
    let state = (await this.insist('GET', `/shots/${this.work}/recipe`)).body;
    for (let k = 0; k < n; k++) {
      const label = `Edit ${++this.edits}`;
      const recipe = structuredClone(state.recipe);
      recipe.assets = Array.isArray(recipe.assets) ? {} : recipe.assets;
      const value = set(recipe.areas[0].touches[touch], this.edits);
      const answer = await this.ask('PUT', `/shots/${this.work}/recipe`, { base: state.revision, label, recipe });
      if (answer.status === 200) {
        this.acknowledged.set(label, { touch, value });
        if (answer.body.parent !== state.revision) this.merged++;
        state = answer.body;
      } else if (answer.status === 0 || answer.status >= 500 || answer.status === 409) {
        // One whose answer was lost may be taken after all, behind what was read since: then the next is told so.
        await this.answers();
        state = (await this.insist('GET', `/shots/${this.work}/recipe`)).body;
      } else throw new Error(`an edit is refused: ${answer.status} ${JSON.stringify(answer.body)}`);
    }
  }

  /** What a database holds of edits: by label, the values of both touches. */
  kept(database) {
    const code = `$db = new PDO('sqlite:' . $argv[1]); $db->exec('PRAGMA busy_timeout=30000'); $kept = []; foreach ($db->query("select label, recipe from revisions where shot_id = {$argv[2]} and label like 'Edit %'") as $row) { $touches = json_decode($row['recipe'], true)['areas'][0]['touches']; $kept[$row['label']] = [$touches[0]['stops'], $touches[1]['radius']]; } echo json_encode((object) $kept);`;
    return JSON.parse(execFileSync('php', ['-r', code, database, String(this.work)], { env: process.env, maxBuffer: 1 << 28 }).toString());
  }

  /** Says which of what was acknowledged is not there as it was set. */
  compare(kept, acknowledged, where) {
    for (const [label, { touch, value }] of acknowledged) {
      const found = kept[label];
      if (!found) this.wrong(`${label} was acknowledged and is lost ${where}`);
      else if (Math.abs(found[touch] - value) > 1e-9) this.wrong(`${label} was acknowledged as ${value} and is ${found[touch]} ${where}`);
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

  async carry() {
    const { body: carries } = await this.insist('POST', `/shots/${this.steady}/carries`, { areas: [], touches: null, base: true, finish: false, replace: false, match: false, shots: [this.work] });
    const id = carries?.[0]?.id;
    if (id === undefined) throw new Error(`nothing is carried: ${JSON.stringify(carries)}`);
    const carry = await this.over('a carry', async () => (await this.insist('GET', `/shots/${this.steady}/carries`)).body.find((c) => c.id === id && !['waiting', 'working'].includes(c.state)));
    if (carry.state !== 'proposed' && !carry.message) throw new Error(`a carry is ${carry.state} without a word`);
    await this.insist('POST', `/carries/${id}/leave`);
    this.carries++;
  }

  /** A shot goes out as a bundle and comes in again: nothing of it is new. */
  async bundle() {
    let bytes;
    for (let again = 0; !bytes; again++) {
      try {
        const answer = await fetch(`${this.url}/api/jobs/${this.job}/bundle?footage=0&shots=${this.steady}`);
        if (!answer.ok) throw new Error(`a bundle is refused: ${answer.status}`);
        bytes = Buffer.from(await answer.arrayBuffer());
      } catch (reason) {
        if (again === 40) throw reason;
        await wait(500);
      }
    }
    const told = await this.takenIn(await this.send(bytes, 'steady.bundle.zip', null), 'bundle');
    if (told.join() !== 'Everything of it was here already.') throw new Error(`a bundle of what is here brought: ${told.join(' ')}`);
    this.bundles++;
  }

  /** A cut becomes as many shots as it has events, however often it is begun again. */
  async cut() {
    const events = 60;
    const code = (f) => [Math.floor(f / 86400), Math.floor(f / 1440) % 60, Math.floor(f / 24) % 60, f % 24].map((n) => String(n).padStart(2, '0')).join(':');
    const lines = Array.from({ length: events }, (_, i) => `${i + 1} AX V C ${code(i % 12)} ${code((i % 12) + 8)} ${code(8 * i)} ${code(8 * i + 8)}\n* FROM CLIP NAME: c${i}\n* SOURCE FILE: ${i % 2 ? this.film : 'none.mov'}`);
    const { body: job } = await this.insist('POST', '/jobs', { name: `Cut ${++this.cuts}` });
    await this.takenIn(await this.send(Buffer.from(`TITLE: cut\n${lines.join('\n')}\n`), 'cut.edl', job.id), 'cut', { rate: '24/1', handles: 2 });
    const { shots } = (await this.insist('GET', `/jobs/${job.id}`)).body;
    const states = shots.map((s) => s.state).filter((s) => s === 'ready').length;
    if (shots.length !== events || states !== events / 2) throw new Error(`a cut of ${events} events became ${shots.length} shots, ${states} of them ready`);
    await this.insist('DELETE', `/jobs/${job.id}`);
  }

  /** A backup made meanwhile holds all that was answered for before it began, and can be put back elsewhere. */
  async backup() {
    const before = new Map(this.acknowledged);
    const artisan = (data, ...words) => new Promise((done) => {
      const env = { ...this.env, COSSEL_DATA: data, DB_DATABASE: join(data, 'cossel.sqlite') };
      const process = spawn('php', ['artisan', ...words], { cwd: root, env });
      let said = '';
      for (const out of [process.stdout, process.stderr]) out.on('data', (text) => (said += text));
      process.on('exit', (code) => done({ code, said }));
    });
    const [place, elsewhere] = [join(this.folder, 'kept'), join(this.folder, 'elsewhere')];
    let made;
    for (let again = 0; again < 20; again++) {
      made = await artisan(this.data, 'cossel:backup', place);
      if (made.code === 0) break;
      // The disk is full, the footage is away, the database is held: it says so, and goes well later.
      await wait(2000);
    }
    if (made.code !== 0) throw new Error(`no backup is made: ${made.said}`);
    rmSync(elsewhere, { recursive: true, force: true });
    mkdirSync(elsewhere);
    writeFileSync(join(elsewhere, 'cossel.sqlite'), '');
    const put = await artisan(elsewhere, 'cossel:restore', place);
    if (put.code !== 0) throw new Error(`a backup is not put back: ${put.said}`);
    this.compare(this.kept(join(elsewhere, 'cossel.sqlite')), before, 'in a backup');
    this.backups++;
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
    this.acknowledged = new Map();
    const stops = (touch, n) => (touch.stops = (n % 4000) / 1000);
    const radius = (touch, n) => (touch.radius = 0.001 + (n % 4000) / 100000);
    const acts = { edit: () => Promise.all([this.edit(6, 0, stops), this.edit(6, 1, radius)]), carry: () => this.carry(), bundle: () => this.bundle(), cut: () => this.cut(), ...(k % 5 === 0 ? { backup: () => this.backup() } : {}), upload: () => this.upload(), deliver: () => this.delivered().then((md5) => { if (md5 !== this.wanted) throw new Error('a delivery has other pictures'); }), follow: () => this.follow(), judge: () => this.judge() };
    const names = Object.keys(acts).filter((name) => this.dice.next() < (['carry', 'bundle', 'cut'].includes(name) ? 0.15 : 0.45));
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
    this.compare(this.acknowledged.size > 0 ? this.kept(join(this.data, 'cossel.sqlite')) : {}, this.acknowledged, `(round ${k}: ${faults.join(', ')})`);
    if (k % 20 === 0) await this.tidy().catch((reason) => told.push(reason.message));
    for (const what of told) this.wrong(`round ${k} (${faults.join(', ')}): ${what}`);
  }

  /** Faults that cannot be made here, and why. */
  leftOut() {
    return [...(this.mounted ? [] : ['the disk full (only root can mount a small one)']), ...(this.clock ? [] : ['the clock (libfaketime is not installed)'])];
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
      ['Rounds', rounds], ['Lost or wrong', this.lost.length], ['Edits of two clients', this.edits], ['Edits put together with another\'s', this.merged], ['Uploads', this.uploads], ['Deliveries, the same pixels each', this.deliveries], ['Follows', this.follows], ['Carries', this.carries], ['Bundles out and in', this.bundles], ['Cuts of 60 events', this.cuts], ['Backups made and put back', this.backups],
      ['Longest until something was over', `${this.slowest.toFixed(0)} s`], ['Minutes', minutes.toFixed(0)], ['Database at the end', `${(db / 1e6).toFixed(1)} MB`],
      ...Object.entries(this.faults).sort(([a], [b]) => a.localeCompare(b)).map(([name, n]) => [`Fault: ${name}`, n]),
      ['Faults left out', this.leftOut().join('; ') || 'none'],
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
