export function checkLayers(files: ReadonlyArray<readonly [path: string, source: string]>): string[];
