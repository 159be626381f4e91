/** One request on its way from the consent to its outcome, and what follows the commit. */
@NullMarked
package io.vacancy.internal.execute;

import org.jspecify.annotations.NullMarked;
