import type { MikroORM } from '@mikro-orm/postgresql'
import type { CompanyDirectory } from '~~/shared/directory'
import { DepartmentEntity, LineEntity, PersonEntity } from '../database/entities'

/** Who works here and which lines there are, held in memory: the console needs it even while the database is away. */
export class Directory {
  private constructor(readonly company: CompanyDirectory) {}

  static async load(orm: MikroORM): Promise<Directory> {
    const em = orm.em.fork()
    const departments = await em.find(DepartmentEntity, {}, { orderBy: { position: 'asc' } })
    const people = await em.find(PersonEntity, {}, { orderBy: { extension: 'asc' } })
    const lines = await em.find(LineEntity, {}, { orderBy: { number: 'asc' } })
    const byId = new Map(departments.map(department => [department.id, department]))
    return new Directory({
      departments: departments.map(({ id, name, site }) => ({ id, name, site })),
      people: people.map(({ extension, first, last, nickname, department, role, room, mobile }) => {
        const { name: departmentName, site, handles } = byId.get(department)!
        return { extension, first, last, nickname: nickname ?? null, department, departmentName, site, role, room, handles, mobile: mobile ?? null }
      }),
      lines: lines.map(({ id, name, number, promise, greeting }) => ({ id, name, number, promise, greeting })),
    })
  }
}
