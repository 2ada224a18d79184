/** Bytes of the shortest header (ISO/IEC 13818-7, 6.2, without a checksum). */
export const ADTS_HEADER = 7;

/**
 * Divides a stream of ADTS frames into its frames, headers included.
 *
 * @throws RangeError where something else stands
 */
export const adtsPackets = (bytes: Buffer): Buffer[] => {
  const packets: Buffer[] = [];
  for (let at = 0; at < bytes.length;) {
    const sync = at + ADTS_HEADER <= bytes.length && (bytes.readUInt16BE(at) & 0xfff6) === 0xfff0;
    // Its length has 13 bits, the last two of byte 3 to the first three of byte 5.
    const length = sync ? (bytes.readUIntBE(at + 3, 3) >> 5) & 0x1fff : 0;
    if (length < ADTS_HEADER || at + length > bytes.length) {
      throw new RangeError(`no ADTS frame at ${at} of ${bytes.length}`);
    }
    packets.push(bytes.subarray(at, at + length));
    at += length;
  }
  return packets;
};
