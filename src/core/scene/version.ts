/** The version of the scene format that this code writes. Raise it with a step in migrate.ts. */
export const SCENE_VERSION = 6;

/** Steps of the undo list name places of a scene; those of scenes since this version still name the same places. */
export const HISTORY_SINCE = 2;
