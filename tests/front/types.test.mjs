// @vitest-environment node
import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { types } from '../../scripts/types.mjs';

it('the recipe’s types are those its schema makes', async () => {
  expect(readFileSync('resources/app/api/recipe.ts', 'utf8')).toBe(await types());
}, 30000);
