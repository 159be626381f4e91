/** The port through which the core has a database do its work. */
@NullMarked
package io.vacancy.store;

import org.jspecify.annotations.NullMarked;
