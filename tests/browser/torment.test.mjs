/** A few rounds of faults while work is done; ./cossel torment is the long one. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Torment } from '../torment/torment.mjs';

test('nothing is lost whatever is killed, filled or taken away', async () => {
  const torment = new Torment(20261126, 8689);
  try {
    await torment.start();
    await torment.prepare();
    for (let round = 1; round <= 5; round++) await torment.round(round);
    await torment.tidy();
  } finally {
    await torment.end();
  }
  assert.deepEqual(torment.lost, []);
  assert.ok(torment.edits + torment.uploads + torment.deliveries > 3);
});
