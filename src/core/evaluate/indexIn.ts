/** Things with ids are named by those, so that they may change places; others by their number. */
export const indexIn = (list: readonly unknown[], key: string): number =>
  Number.isNaN(Number(key)) ? list.findIndex((v) => (v as { id?: unknown } | null)?.id === key) : Number(key);
