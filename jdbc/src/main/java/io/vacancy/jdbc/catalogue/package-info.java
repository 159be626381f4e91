/** Reading tables, keys and relations from the database's own catalogue. */
@NullMarked
package io.vacancy.jdbc.catalogue;

import org.jspecify.annotations.NullMarked;
