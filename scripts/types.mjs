/**
 * Writes resources/app/api/recipe.ts, the recipe's types as the server answers with them, from docs/recipe.schema.json.
 * What may be left out of a file is always there in an answer; touches are open, as their settings depend on their kind.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { compile } from 'json-schema-to-typescript';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const target = join(root, 'resources/app/api/recipe.ts');

/** Where fields are really left out: by the way a motion is found, and in what keyframes set. */
const ALWAYS = { motion: ['by', 'use', 'pivot', 'keys'], motionKey: ['frame', 'move', 'turn', 'scale', 'shear'] };
/** What types cannot say. */
const BOUNDS = ['minimum', 'maximum', 'maxLength', 'pattern', '$schema'];
const number = { $ref: '#/$defs/maybeKeyed' };

function isKeyed(node) {
  return Array.isArray(node.oneOf) && node.oneOf.length === 2 && node.oneOf[0].type === 'number' && node.oneOf[1].properties?.keys;
}

/** The same schema with everything there, numbers that may be keyed as one type, tuples in the older form. */
function complete(node, name = '') {
  if (Array.isArray(node)) return node.map((n) => complete(n));
  if (node === null || typeof node !== 'object') return node;
  if (isKeyed(node)) return number;
  const own = Object.fromEntries(Object.entries(node).filter(([key]) => !BOUNDS.includes(key)).map(([key, value]) => {
    if (key === 'properties' || key === '$defs') return [key, Object.fromEntries(Object.entries(value).map(([k, v]) => [k, complete(v, key === '$defs' ? k : '')]))];
    return [key, complete(value, key === 'items' ? 'items' : '')];
  }));
  if (own.prefixItems) {
    own.items = own.prefixItems;
    own.additionalItems = false;
    delete own.prefixItems;
  }
  if (own.type === 'array' && own.maxItems > 3) delete own.maxItems;
  if (own.type === 'array' && own.minItems !== own.maxItems) {
    delete own.minItems;
    delete own.maxItems;
  }
  // A keyframe names its frame and what it sets there.
  const isKeyframe = own.properties?.frame && own.properties.ease && own.properties.join === undefined;
  if (own.properties && !(isKeyframe && name === 'items')) own.required = ALWAYS[name] ?? Object.keys(own.properties);
  return own;
}

export async function types() {
  const schema = complete(JSON.parse(readFileSync(join(root, 'docs/recipe.schema.json'), 'utf8')));
  const kinds = [...new Set(JSON.stringify(schema.$defs.area.properties.touches).match(/"const":"[^"]+"/g).map((c) => JSON.parse(`{${c}}`).const))].filter((c) => c !== 'inside');
  const ease = { $ref: '#/$defs/ease' };
  Object.assign(schema.$defs, {
    numberKey: { type: 'object', properties: { frame: { type: 'integer' }, value: { type: 'number' }, ease }, required: ['frame', 'value'], additionalProperties: false },
    keyed: { type: 'object', properties: { value: { type: 'number' }, keys: { type: 'array', items: { $ref: '#/$defs/numberKey' } } }, required: ['value', 'keys'], additionalProperties: false },
    maybeKeyed: { oneOf: [{ type: 'number' }, { $ref: '#/$defs/keyed' }] },
    touch: {
      type: 'object',
      properties: { id: { $ref: '#/$defs/id' }, kind: { type: 'string', description: kinds.join(', ') + ', legal' }, side: { enum: ['inside', 'outside'] }, on: { type: 'boolean' }, amount: number },
      required: ['id', 'kind', 'on', 'amount'],
      additionalProperties: true,
    },
  });
  // What keyframes of shapes may set, whichever kind they are of.
  const shapes = ['ellipse', 'box', 'path', 'people', 'areaShape'].map((name) => schema.$defs[name].properties);
  schema.$defs.shapeKey = { type: 'object', properties: Object.assign({}, ...shapes.map((p) => p.keys.items.properties)), required: ['frame'], additionalProperties: false };
  for (const properties of shapes) properties.keys.items = { $ref: '#/$defs/shapeKey' };
  const touches = { type: 'array', items: { $ref: '#/$defs/touch' } };
  schema.$defs.area.properties.touches = touches;
  schema.$defs.area.properties.blinkGuard.properties.keys = { type: 'array', items: { $ref: '#/$defs/numberKey' } };
  Object.assign(schema.properties, { base: touches, finish: touches });
  schema.title = 'Recipe';
  const text = await compile(schema, 'Recipe', {
    additionalProperties: false,
    bannerComment: '/** Generated from docs/recipe.schema.json: npm run types */',
    unreachableDefinitions: true,
    strictIndexSignatures: false,
    style: { singleQuote: true, printWidth: 140 },
  });
  // Where each comes from in the schema says nothing here, and tuples speak for themselves.
  return text.replace(/^\s*\/\*\*\n(?:\s*\* (?:This interface was referenced|via the|@m).*\n|\s*\*\n)+\s*\*\/\n/gm, '');
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(target, await types());
