export const PACKAGES: string[];
export function browserPath(): string;
