import { useDocument } from '@/store/document';

export const nameOfProp = (id: string): string =>
  useDocument.getState().scene.props.find((p) => p.id === id)?.name ?? 'missing';
