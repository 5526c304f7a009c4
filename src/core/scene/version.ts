/** The version of the scene format that this code writes. Raise it with a step in migrate.ts. */
export const SCENE_VERSION = 12;
