/** What is said before one is let in. */
export const texts = {
  // password-screen
  wordmark: 'TIN GHOST',
  password: 'Password',
  passwordOfThisServer: 'Password of this server',
  open: 'Open',
} as const;
