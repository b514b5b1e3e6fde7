/** An id that nothing else has; over plain HTTP on a network browsers offer no better one. */
export const freshId = (): string =>
  crypto.randomUUID?.() ??
  Array.from(crypto.getRandomValues(new Uint32Array(4)), (part) => part.toString(36)).join("");
