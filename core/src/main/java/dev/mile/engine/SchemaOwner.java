package dev.mile.engine;

/** What has a schema, such as a project. Engines are opened over it. */
public interface SchemaOwner {
    /** {@return its schema} */
    DataSchema schema();
}
