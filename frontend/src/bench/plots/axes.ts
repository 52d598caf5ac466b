/** What plots of stations share. */

export const NM = { from: 380, to: 900, ticks: [400, 500, 600, 700, 800], label: "wavelength, nm" };
export const CARD = { width: 189, height: 40 };
export const STOP = Math.log10(2);
