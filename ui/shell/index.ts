export { Providers } from './Providers'
export { Shell } from './Shell'
export { ShootHeader } from './ShootHeader'
export { WithShoot } from './WithShoot'
