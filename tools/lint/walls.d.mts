export const CORE_FOLDERS: Record<string, string[]>
export const walls: object[]
