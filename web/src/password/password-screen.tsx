import { useState, type FormEvent } from 'react';
import { api } from '../api/client';
import { Button } from '../parts/button';
import { useTitle } from '../parts/use-title';
import { texts } from '../messages/password';

/** Stands before everything where the server is behind a password that was not given yet, or no longer holds. */
export function PasswordScreen() {
  useTitle(texts.password);
  const [password, setPassword] = useState('');
  const [refused, setRefused] = useState<string>();
  const [asking, setAsking] = useState(false);
  const give = (event: FormEvent): void => {
    event.preventDefault();
    setAsking(true);
    api('/session', { method: 'POST', body: { password } }).then(
      // What was open before is there again, with all that was kept in this browser.
      () => location.reload(),
      (error: Error) => {
        setRefused(error.message);
        setAsking(false);
      },
    );
  };
  return (
    <main className="grid h-full place-items-center">
      <form onSubmit={give} className="w-[340px] rounded-sm border border-rule bg-panel p-6">
        <h1 className="mb-4 text-[15px] font-semibold tracking-[0.18em]">{texts.wordmark}</h1>
        <label className="block">
          <span className="mb-1 block text-faint">{texts.passwordOfThisServer}</span>
          <input
            type="password"
            autoFocus
            autoComplete="current-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            className="w-full rounded-sm border border-rule bg-tin px-2 py-1.5"
          />
        </label>
        <p role="alert" className="min-h-6 pt-1 text-oxide">
          {refused}
        </p>
        <Button kind="live" type="submit" disabled={password === '' || asking}>
          {texts.open}
        </Button>
      </form>
    </main>
  );
}
