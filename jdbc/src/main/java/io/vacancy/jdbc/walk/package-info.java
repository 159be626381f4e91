/** Running a program: from the selected rows along the relations to everything that is affected. */
@NullMarked
package io.vacancy.jdbc.walk;

import org.jspecify.annotations.NullMarked;
