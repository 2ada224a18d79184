/** A new identifier, made where the thing is made: 80 random bits in the alphabet of the core's `idSchema`. */
export const newId = (): string =>
  [...crypto.getRandomValues(new Uint8Array(10))]
    .map((byte) => byte.toString(16).padStart(2, '0'))
    .join('');
