package io.vacancy.program;

/** A program together with the rows it is to start from: all that a store needs to know. */
public record Deletion(Program program, Target target) {}
