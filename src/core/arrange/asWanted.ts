import type { Arrangement } from './registry';
import type { Finding } from './result';

/** What a finding is about beside its arrangement: the id of another one, a surface, a path or a prop; '' for nothing. */
export const aboutOf = ({ detail }: Pick<Finding, 'detail'>): string =>
  String(detail.other ?? detail.surface ?? detail.path ?? detail.prop ?? '');

/** The reason for which a finding is as it is wanted; undefined where nobody has said so. What is broken never is. */
export const wantedSo = (a: Pick<Arrangement, 'asWanted'>, f: Finding): string | undefined =>
  f.severity === 'error'
    ? undefined
    : a.asWanted?.find((w) => w.finding === f.kind && w.about === aboutOf(f))?.why;
