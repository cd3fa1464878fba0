import { createRoot } from 'react-dom/client';
import { App, hurryToBench } from './app';
import './styles.css';

hurryToBench(location.pathname);
createRoot(document.getElementById('root')!).render(<App />);
