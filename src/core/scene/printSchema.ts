import { z } from 'zod';

/** What a printer makes of a scene, and what it can make. */
export const printSchema = z.object({
  scale: z
    .number()
    .min(0.001)
    .max(1e6)
    .default(1)
    .describe('So many times smaller than it is: 200 for 1:200, in formats for printers'),
  density: z.number().min(1).max(30000).default(1240).describe('Kilograms in a cubic metre of the material'),
  wallMm: z
    .number()
    .min(0)
    .max(1000)
    .default(1.2)
    .describe('Thinnest wall that holds, millimetres as printed'),
  detailMm: z
    .number()
    .min(0)
    .max(1000)
    .default(0.3)
    .describe('Smallest detail that comes out, millimetres as printed'),
  overhangDeg: z
    .number()
    .min(0)
    .max(90)
    .default(45)
    .describe('Faces that lean out further than this from upright need supports'),
});

export type Print = z.infer<typeof printSchema>;
