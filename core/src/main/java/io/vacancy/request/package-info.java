/** What a request says: its operation, the rows that are selected, limits, who is asked and why. */
@NullMarked
package io.vacancy.request;

import org.jspecify.annotations.NullMarked;
