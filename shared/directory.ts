import type { DirectoryEntry } from '../core/directory/search'

export interface DepartmentInfo { id: string, name: string, site: string }

export interface LineInfo {
  id: string
  name: string
  /** E.164. */
  number: string
  /** Seconds. */
  promise: number
  greeting: string
}

/** GET /api/directory */
export interface CompanyDirectory {
  departments: DepartmentInfo[]
  people: DirectoryEntry[]
  lines: LineInfo[]
}
