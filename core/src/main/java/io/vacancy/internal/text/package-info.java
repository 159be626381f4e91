/** Text that goes to people and programs, or comes from them: shown without acting, without passwords, not endless. */
@NullMarked
package io.vacancy.internal.text;

import org.jspecify.annotations.NullMarked;
