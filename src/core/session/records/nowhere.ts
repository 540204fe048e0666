/** In the place of a bus: not routed on; only sends, if any, carry it further. */
export const NOWHERE = 'nowhere';
