/** What the rules of HTTP Live Streaming (RFC 8216) have against a playlist; numbers in brackets are its sections. */

const attributesOf = (line: string): Map<string, string> => {
  const list = line.slice(line.indexOf(':') + 1);
  return new Map(
    [...list.matchAll(/([A-Z0-9-]+)=("[^"\r\n]*"|[^",\s][^,]*)(?:,|$)/g)].map((match) => [
      match[1]!,
      match[2]!,
    ]),
  );
};

interface Read {
  readonly lines: readonly string[];
  readonly tag: (name: string) => string | undefined;
  readonly against: string[];
}

const read = (text: string): Read => {
  const against: string[] = [];
  if (!text.startsWith('#EXTM3U\n')) against.push('it does not begin with EXTM3U (4.3.1.1)');
  if (text.includes('\uFEFF')) against.push('it has a byte order mark (4.1)');
  const lines = text.split('\n').filter(Boolean);
  const named = (name: string) => lines.filter((line) => line.split(':')[0] === `#${name}`);
  for (const once of ['EXT-X-VERSION', 'EXT-X-TARGETDURATION', 'EXT-X-ENDLIST', 'EXT-X-MAP']) {
    if (named(once).length > 1) against.push(`${once} more than once`);
  }
  return { lines, tag: (name) => named(name)[0], against };
};

/** Of a playlist that lists segments of fragmented MP4. @returns in words; nothing: it keeps them */
export const againstMediaPlaylist = (text: string): string[] => {
  const { lines, tag, against } = read(text);
  const version = Number(tag('EXT-X-VERSION')?.split(':')[1] ?? 1);
  if (tag('EXT-X-MAP') && version < 6) against.push('EXT-X-MAP needs version 6 (7)');
  const map = tag('EXT-X-MAP');
  if (!map) against.push('fragmented MP4 needs EXT-X-MAP (3.3)');
  else if (!/^"[^"]+"$/.test(attributesOf(map).get('URI') ?? ''))
    against.push('EXT-X-MAP without URI (4.3.2.5)');
  const target = tag('EXT-X-TARGETDURATION')?.split(':')[1];
  if (!target || !/^\d+$/.test(target)) against.push('no whole target duration (4.3.3.1)');
  const at = lines.findIndex((line) => line.startsWith('#EXTINF'));
  for (const name of ['EXT-X-TARGETDURATION', 'EXT-X-MEDIA-SEQUENCE', 'EXT-X-PLAYLIST-TYPE']) {
    const own = lines.findIndex((line) => line.startsWith(`#${name}`));
    if (own > at) against.push(`${name} after the first segment (4.3.3)`);
  }
  if (tag('EXT-X-STREAM-INF')) against.push('a tag of master playlists (4.1)');
  if (tag('EXT-X-PLAYLIST-TYPE') === '#EXT-X-PLAYLIST-TYPE:VOD' && !tag('EXT-X-ENDLIST'))
    against.push('whole, and without an end (4.3.3.5)');
  let segments = 0;
  lines.forEach((line, index) => {
    if (line.startsWith('#EXTINF')) {
      const seconds = /^#EXTINF:(\d+\.\d+),/.exec(line)?.[1];
      if (!seconds) against.push(`no decimal duration: ${line} (4.3.2.1)`);
      else if (Math.round(Number(seconds)) > Number(target))
        against.push(`${seconds} s, over the target duration (4.3.3.1)`);
      const uri = lines.slice(index + 1).find((next) => !next.startsWith('#EXT-X-BYTERANGE'));
      if (!uri || uri.startsWith('#')) against.push(`a duration without a segment: ${line}`);
    } else if (!line.startsWith('#')) {
      segments++;
      if (!lines[index - 1]?.startsWith('#EXTINF'))
        against.push(`a segment without a duration: ${line}`);
    }
  });
  if (segments === 0) against.push('no segments');
  return against;
};

/** Of a playlist of playlists. */
export const againstMasterPlaylist = (text: string): string[] => {
  const { lines, against } = read(text);
  const groups = new Set<string>();
  for (const line of lines.filter((one) => one.startsWith('#EXT-X-MEDIA:'))) {
    const attributes = attributesOf(line);
    for (const name of ['TYPE', 'GROUP-ID', 'NAME']) {
      if (!attributes.has(name)) against.push(`EXT-X-MEDIA without ${name} (4.3.4.1)`);
    }
    groups.add(attributes.get('GROUP-ID') ?? '');
  }
  const variants = lines.flatMap((line, index) =>
    line.startsWith('#EXT-X-STREAM-INF:') ? [{ line, uri: lines[index + 1] }] : [],
  );
  if (variants.length === 0) against.push('no variants');
  for (const { line, uri } of variants) {
    const attributes = attributesOf(line);
    if (!/^\d+$/.test(attributes.get('BANDWIDTH') ?? ''))
      against.push(`no BANDWIDTH: ${line} (4.3.4.2)`);
    if (Number(attributes.get('AVERAGE-BANDWIDTH') ?? 0) > Number(attributes.get('BANDWIDTH')))
      against.push('a mean above the peak (4.3.4.2)');
    if (!/^"[^"]+"$/.test(attributes.get('CODECS') ?? '')) against.push('no CODECS (4.3.4.2)');
    if (!/^\d+x\d+$/.test(attributes.get('RESOLUTION') ?? '')) against.push('no RESOLUTION');
    if (!uri || uri.startsWith('#')) against.push(`a variant without an address: ${line}`);
    const audio = attributes.get('AUDIO');
    if (audio && !groups.has(audio)) against.push(`no group ${audio} (4.3.4.2)`);
  }
  if (lines.some((line) => line.startsWith('#EXTINF'))) against.push('segments beside playlists');
  return against;
};
