import { type Port, serveSearch } from './searching'

serveSearch(globalThis as unknown as Port)
