/** The store over JDBC: {@link io.vacancy.jdbc.JdbcStore} and nothing else is for users. */
@NullMarked
package io.vacancy.jdbc;

import org.jspecify.annotations.NullMarked;
