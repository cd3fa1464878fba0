import { createContext, useContext } from 'react';
import { shownKeys, type Action } from './actions';

/** The actions of the bench with the keys that they have now. */
export const ActionsContext = createContext<readonly Action[]>([]);

/** For titles of buttons: a text, and in brackets the keys of the action that the button does too, if it has any. */
export function useWithKeys(): (text: string, action: string) => string {
  const actions = useContext(ActionsContext);
  return (text, action) => {
    const keys = actions.find(({ name }) => name === action)?.keys;
    return keys ? `${text} (${shownKeys(keys)})` : text;
  };
}
