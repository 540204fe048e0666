/** Version of this program, as in package.json (a test holds them together). */
export const VERSION = '0.1.0';
