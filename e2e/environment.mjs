// What the pages showed, in the message of a test that failed: that something was waited for in vain does not say why.
import { TestEnvironment } from 'jest-environment-node';

const FAILURES = ['test_fn_failure', 'hook_failure'];

export default class extends TestEnvironment {
  async handleTestEvent({ name, error }) {
    const shown = FAILURES.includes(name) && error instanceof this.global.Error && (await this.global.whatPagesShow?.());
    if (shown) error.stack += `\n\n${shown}`;
  }
}
