/** MariaDB. */
@NullMarked
package io.vacancy.jdbc.internal.engine.mariadb;

import org.jspecify.annotations.NullMarked;
