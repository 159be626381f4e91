package io.vacancy.jdbc.walk;

import io.vacancy.jdbc.sql.Sql;
import io.vacancy.schema.Relation;
import java.util.List;

/**
 * Something that may stand in the way: child rows that refer to rows which would go.
 *
 * @param which which rows t of the child table; there may be none
 * @param hidden whether they are outside the scope of who asks, who is not told more
 * @param waysOut rules that a request may ask for instead
 */
record Obstacle(Relation relation, Sql which, String reason, boolean hidden, List<String> waysOut) {}
