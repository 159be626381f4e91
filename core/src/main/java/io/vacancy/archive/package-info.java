/** What is kept of rows that went: what there is, who holds it, until when. */
@NullMarked
package io.vacancy.archive;

import org.jspecify.annotations.NullMarked;
