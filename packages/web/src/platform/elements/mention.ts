import 'element-plus/es/components/mention/style/css';

export { ElMention as default } from 'element-plus';
