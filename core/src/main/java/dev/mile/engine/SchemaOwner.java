package dev.mile.engine;

/** What has a schema: a project, or a schema itself. Engines are opened over it. */
public interface SchemaOwner {
    /** Returns its schema. */
    DataSchema schema();
}
