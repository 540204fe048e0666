/** Two rounds of FNV-1a over UTF-16 units with different starts (constants as published at isthe.com, from memory): 16 hexadecimal digits. For ids, not for secrets. */
export function hashText(text: string): string {
  let [a, b] = [0x811c9dc5, 0x1000193];
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    a = Math.imul(a ^ unit, 0x01000193);
    b = Math.imul(b ^ (unit + i), 0x85ebca6b);
    b ^= b >>> 13;
  }
  return [a, b].map((x) => (x >>> 0).toString(16).padStart(8, '0')).join('');
}
