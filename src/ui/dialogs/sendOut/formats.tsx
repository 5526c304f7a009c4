import { Box, Boxes, FileArchive, Printer, Shapes, Table2 } from 'lucide-react';
import type { ReactNode } from 'react';
import type { SendFormat } from '@/engine/service';

/** The formats that a scene goes out as, in the order in which they are offered. */
export const FORMATS: { kind: SendFormat['kind']; title: string; text: string; icon: ReactNode }[] = [
  {
    kind: 'glb',
    title: 'glTF, .glb',
    text: 'What is placed and seen, for renderers and engines',
    icon: <Boxes size={18} />,
  },
  {
    kind: '3mf',
    title: '3MF, .3mf',
    text: 'For printers: named parts with their colours',
    icon: <Printer size={18} />,
  },
  { kind: 'stl', title: 'STL, .stl', text: 'For printers: the bare shape', icon: <Box size={18} /> },
  { kind: 'obj', title: 'OBJ, .obj', text: 'Whole meshes for anything else', icon: <Shapes size={18} /> },
  {
    kind: 'csv',
    title: 'Table, .csv',
    text: 'One row a slot: prop, place, rotation, size',
    icon: <Table2 size={18} />,
  },
  {
    kind: 'clothesline',
    title: 'Scene, .clothesline',
    text: 'All of it with its meshes, to open again as it is',
    icon: <FileArchive size={18} />,
  },
];
