/** Makes the demo project: Fernhollow Garden Centres, made up, the same bytes every time. */
module dev.mile.demo {
    exports dev.mile.demo;
}
