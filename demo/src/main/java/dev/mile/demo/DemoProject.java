package dev.mile.demo;

/** The demo. */
public final class DemoProject {
    private DemoProject() {}
}
