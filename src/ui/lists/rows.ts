/** The rows of a list whose nodes may stand in groups. */

export interface Listed {
  id: string;
  group?: string;
}

export type ListRow<N> =
  | { head: string; members: N[]; folded: boolean }
  | { node: N; /** Whether it stands under the head of a group. */ inGroup: boolean };

/** Each group stands where the first of it does; of a folded one only the head is there. */
export function rowsOf<N extends Listed>(nodes: readonly N[], folded: readonly string[]): ListRow<N>[] {
  const groups = new Map<string, N[]>();
  for (const node of nodes)
    if (node.group !== undefined) {
      const members = groups.get(node.group);
      if (members) members.push(node);
      else groups.set(node.group, [node]);
    }
  const rows: ListRow<N>[] = [];
  for (const node of nodes) {
    const { group } = node;
    if (group === undefined) rows.push({ node, inGroup: false });
    const members = group === undefined ? undefined : groups.get(group);
    if (group === undefined || members?.[0] !== node) continue;
    const isFolded = folded.includes(group);
    rows.push({ head: group, members, folded: isFolded });
    if (!isFolded) rows.push(...members.map((m) => ({ node: m, inGroup: true })));
  }
  return rows;
}
