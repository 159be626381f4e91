/** What happens to child rows when their parent goes. */
@NullMarked
package io.vacancy.rules;

import org.jspecify.annotations.NullMarked;
