package io.vacancy.program;

import io.vacancy.rules.Rule;
import io.vacancy.schema.Relation;

/** One rule of one relation: what it does to the child rows whose parent goes. */
public record Branch(Relation relation, Rule rule) {}
