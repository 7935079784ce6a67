import { refusalOf } from '../words/in-english'
import { describe, expect, it } from 'vitest'
import { identityWanted, roleOf } from './identity'

const given = [{ group: 'desk leads', role: 'supervisor' as const }, { group: 'desk', role: 'operator' as const }]

describe('the role by group', () => {
  it('is that of the first group that fits, however the provider says groups', () => {
    expect(roleOf(['desk', 'desk leads'], given)).toBe('supervisor')
    expect(roleOf('desk', given)).toBe('operator')
    expect(roleOf(['Desk', 'desk '], given)).toBeUndefined()
    for (const odd of [undefined, null, 7, {}, [['desk']]]) expect(roleOf(odd, given)).toBeUndefined()
    expect(roleOf(['desk'], [])).toBeUndefined()
  })
})

describe('the settings of an identity provider', () => {
  const right = {
    name: 'House', issuer: 'https://login.house.example/realm', clientId: 'estafette', secret: '', scopes: 'openid profile', address: 'https://desk.house.example',
    signIn: 'preferred_username', groups: 'groups', roles: given, otherwise: null, makes: true,
  }
  it('are taken as they are', () => {
    expect(identityWanted.validateSync(right)).toEqual(right)
  })
  it.each([
    ['issuer', 'login.house.example'], ['issuer', 'https://login.house.example/?x'], ['address', 'https://desk.house.example/path'], ['signIn', 'a b'],
    ['scopes', 'openid  profile'], ['name', ''], ['otherwise', 'king'], ['roles', [{ group: '', role: 'operator' }]],
  ])('are refused by the name of the field: %s %j', (field, value) => {
    expect(refusalOf(() => identityWanted.validateSync({ ...right, [field]: value }))).toContain(field === 'roles' ? 'group' : field)
  })
})
