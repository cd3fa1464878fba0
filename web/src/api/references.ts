import { toast } from 'sonner';
import { api, refresh } from './client';

/** Deletes a reference; what hinders it is told. */
export const discardReference = (id: string): void =>
  void api(`/references/${id}`, { method: 'DELETE' }).then(
    () => refresh('/references'),
    (error: Error) => toast.error(error.message),
  );
