'use client';

export { Broken as default } from '@/ui/shell/Broken';
