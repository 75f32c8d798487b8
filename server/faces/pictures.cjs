/** What the nets are shown: windows of a picture, turned and brought to their size. */
'use strict';

/** Planes of a picture, and bytes of a code in them. */
const PLANES = 3;
const CODE = 2;

/** A picture at half its size; made once. */
function half(picture) {
  if (picture.half) return picture.half;
  const { codes, rgb } = picture;
  const [width, height, row] = [picture.width >> 1, picture.height >> 1, picture.width];
  const out = new Uint16Array(PLANES * width * height);
  for (let plane = 0, k = 0; plane < PLANES; plane++) {
    for (let y = 0; y < height; y++) {
      for (let i = (plane * picture.height + 2 * y) * row, end = i + 2 * width; i < end; i += 2) out[k++] = (codes[i] + codes[i + 1] + codes[i + row] + codes[i + row + 1] + 2) >> 2;
    }
  }
  picture.half = { codes: out, rgb, width, height };
  return picture.half;
}

const light = (v) => (v < 0 ? 0 : v > 255 ? 1 : v / 255);

/**
 * A square window of a picture as floats, red, green, blue of 0 to 1: bilinear, of a smaller picture where it is made much smaller, black
 * outside.
 *
 * @param at   middle, side and turn (radians) in the picture; mirrored: from right to left
 * @param size side of the window, pixels
 */
function window(picture, at, size) {
  const { x, y, side, turn = 0, mirrored = false } = at;
  if (side > 1.5 * size && Math.min(picture.width, picture.height) > 2) return window(half(picture), { ...at, x: x / 2, y: y / 2, side: side / 2 }, size);
  const { codes, rgb, width, height } = picture;
  const [[ra, rb, rc, r], [ga, gb, gc, g], [ba, bb, bc, b]] = rgb;
  const step = side / size;
  const [c, s] = [Math.cos(turn) * step, Math.sin(turn) * step];
  const way = mirrored ? -1 : 1;
  const plane = width * height;
  const out = new Float32Array(size * size * 3);
  for (let j = 0, k = 0; j < size; j++) {
    for (let i = 0; i < size; i++, k += 3) {
      const dx = way * (i + 0.5 - size / 2);
      const dy = j + 0.5 - size / 2;
      const u = x + c * dx - s * dy - 0.5;
      const v = y + s * dx + c * dy - 0.5;
      const left = Math.floor(u);
      const top = Math.floor(v);
      if (left < -1 || top < -1 || left >= width || top >= height) continue;
      const p = (top < 0 ? 0 : top) * width + (left < 0 ? 0 : left);
      const q = p + (left < 0 || left + 1 >= width ? 0 : 1);
      const along = top < 0 || top + 1 >= height ? 0 : width;
      const w1 = (u - left) * (1 - v + top);
      const w2 = (1 - u + left) * (v - top);
      const w3 = (u - left) * (v - top);
      const w0 = 1 - w1 - w2 - w3;
      const first = w0 * codes[p] + w1 * codes[q] + w2 * codes[p + along] + w3 * codes[q + along];
      const second = w0 * codes[p + plane] + w1 * codes[q + plane] + w2 * codes[p + along + plane] + w3 * codes[q + along + plane];
      const third = w0 * codes[p + 2 * plane] + w1 * codes[q + 2 * plane] + w2 * codes[p + along + 2 * plane] + w3 * codes[q + along + 2 * plane];
      out[k] = light(ra * first + rb * second + rc * third + r);
      out[k + 1] = light(ga * first + gb * second + gc * third + g);
      out[k + 2] = light(ba * first + bb * second + bc * third + b);
    }
  }
  return out;
}

/**
 * Places in a window, as a net tells them, back in the picture. Nets count from the middle of the first pixel.
 *
 * @param points x, y and depth in pixels of the window
 */
function back(points, { x, y, side, turn = 0, mirrored = false }, size) {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const way = mirrored ? -1 : 1;
  return points.map(([u, v, depth]) => {
    const dx = way * (((u + 0.5) / size) * side - side / 2);
    const dy = ((v + 0.5) / size) * side - side / 2;
    return [x + c * dx - s * dy, y + s * dx + c * dy, (depth / size) * side];
  });
}

function opened(head, bytes) {
  const codes = new Uint16Array(bytes.length / CODE);
  Buffer.from(codes.buffer).set(bytes);
  return { ...head, codes };
}

/**
 * Pictures as they come in: a line of JSON with width, height, word and rgb (see FrameFormat::toRgb8), then a frame as it is stored, three
 * planes of 16-bit codes.
 */
async function* incoming(stream) {
  let parts = [];
  let have = 0;
  let head = null;
  const size = () => PLANES * CODE * head.width * head.height;
  for await (const part of stream) {
    parts.push(part);
    have += part.length;
    while (head === null ? part.includes(10) || parts.length === 1 : have >= size()) {
      const all = parts.length === 1 ? parts[0] : Buffer.concat(parts, have);
      const end = head === null ? all.indexOf(10) + 1 : size();
      [parts, have] = [[all.subarray(end)], all.length - end];
      if (head === null) {
        if (end === 0) break;
        head = JSON.parse(all.toString('latin1', 0, end - 1));
      } else {
        yield opened(head, all.subarray(0, end));
        head = null;
      }
    }
  }
}

module.exports = { window, back, incoming };
