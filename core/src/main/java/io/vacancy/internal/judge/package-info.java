/** Judging what was found: limits, permission, question and answer. */
@NullMarked
package io.vacancy.internal.judge;

import org.jspecify.annotations.NullMarked;
