import { createRoot } from 'react-dom/client';
import { App, hurry } from './app';
import './styles.css';

void hurry(location.pathname).then(() => createRoot(document.getElementById('root')!).render(<App />));
