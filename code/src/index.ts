/** Hand-off of what moves: a tuning's motion as code, and a folder of checks for a build server. */
export { checkFolder, type FolderFile } from './checks/folder.ts';
export { CannotHold } from './fold/values.ts';
export { printerOf, registry } from './languages/registry.ts';
export { type LinkedFile, linkedFiles } from './link/linked.ts';
export { meetsWalls, motionOf } from './motion.ts';
export { wallsOf } from './walls.ts';
