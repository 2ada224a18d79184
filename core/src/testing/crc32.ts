const TABLE = Array.from({ length: 256 }, (_, byte) => {
  let value = byte;
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1;
  return value >>> 0;
});

/** CRC-32 (ISO 3309), as PNG and ZIP have it: this Node.js has none of its own. */
export const crc32 = (bytes: Uint8Array): number => {
  let sum = 0xffffffff;
  for (const byte of bytes) sum = (sum >>> 8) ^ TABLE[(sum ^ byte) & 0xff]!;
  return (sum ^ 0xffffffff) >>> 0;
};
