import 'element-plus/es/components/drawer/style/css';

export { ElDrawer as default } from 'element-plus';
