/** The audit history: who did what, when and why, sealed into a chain that shows when somebody changed it. */
@NullMarked
package io.vacancy.trail;

import org.jspecify.annotations.NullMarked;
