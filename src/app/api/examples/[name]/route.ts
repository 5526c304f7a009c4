import { readFile } from 'node:fs/promises';
import { join } from 'node:path';

/** An example scene's file, from the folder that ships with the application. */
export async function GET(_: Request, { params }: { params: Promise<{ name: string }> }): Promise<Response> {
  const { name } = await params;
  if (!/^[a-z-]+\.clothesline$/.test(name)) return new Response('There is no such example.', { status: 404 });
  try {
    const bytes = await readFile(join(process.cwd(), 'examples', name));
    return new Response(new Uint8Array(bytes), { headers: { 'content-type': 'application/zip' } });
  } catch {
    return new Response(`There is no example “${name}”.`, { status: 404 });
  }
}
