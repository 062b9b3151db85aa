import { ConfigProvider, message } from 'antd'
import { theme } from '../theme'

// Messages stand outside of every screen and would not know its theme.
ConfigProvider.config({ holderRender: (children) => <ConfigProvider theme={theme}>{children}</ConfigProvider> })

export { message }
