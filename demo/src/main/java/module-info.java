/** Makes the demo project: Fernhollow Garden Centres, made up, the same bytes every time. */
module dev.mile.demo {
    requires static org.jspecify; // which types may be null

    exports dev.mile.demo;
}
