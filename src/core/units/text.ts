/** Bytes as text, one character a byte, up to the first NUL. */
export function asciiText(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) {
    if (byte === 0) break;
    text += String.fromCharCode(byte);
  }
  return text;
}

/** Text as bytes, one a character; characters beyond 255 become `?`. */
export function asciiBytes(text: string): Uint8Array {
  return Uint8Array.from(text, (c) => (c.charCodeAt(0) < 256 ? c.charCodeAt(0) : 63));
}

/** UTF-8 bytes of a text (own, because core has no TextEncoder; RFC 3629). */
export function utf8Bytes(text: string): Uint8Array {
  const out: number[] = [];
  for (const char of text) {
    const code = char.codePointAt(0) ?? 0xfffd;
    if (code < 0x80) out.push(code);
    else if (code < 0x800) out.push(0xc0 | (code >> 6), 0x80 | (code & 63));
    else if (code < 0x10000) out.push(0xe0 | (code >> 12), 0x80 | ((code >> 6) & 63), 0x80 | (code & 63));
    else
      out.push(
        0xf0 | (code >> 18),
        0x80 | ((code >> 12) & 63),
        0x80 | ((code >> 6) & 63),
        0x80 | (code & 63),
      );
  }
  return Uint8Array.from(out);
}

/** Text whose encoding nobody says: UTF-8 where it is well-formed, else a character a byte. */
export function plainText(bytes: Uint8Array): string {
  const text = utf8Text(bytes);
  return text.includes('\ufffd') ? asciiText(bytes) : text;
}

/** Text of UTF-8 bytes; malformed sequences become U+FFFD. */
export function utf8Text(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length;) {
    const first = bytes[i++] as number;
    const more = first < 0x80 ? 0 : first >= 0xf0 ? 3 : first >= 0xe0 ? 2 : first >= 0xc0 ? 1 : -1;
    let code = more < 0 ? 0xfffd : more === 0 ? first : first & (0x3f >> more);
    for (let k = 0; k < more; k++) {
      const next = bytes[i];
      if (next === undefined || (next & 0xc0) !== 0x80) {
        code = 0xfffd;
        break;
      }
      code = (code << 6) | (next & 63);
      i++;
    }
    text += String.fromCodePoint(code <= 0x10ffff ? code : 0xfffd);
  }
  return text;
}
