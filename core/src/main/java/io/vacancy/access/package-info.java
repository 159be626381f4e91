/** Who may see and touch what. */
@NullMarked
package io.vacancy.access;

import org.jspecify.annotations.NullMarked;
