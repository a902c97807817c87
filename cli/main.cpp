/// good-curve-cli: parts without a window. Exit codes: 0 all targets hold, 1 a target or a step fails, 2 bad
/// input.

#include "cli/commands.hpp"

#include <CLI/CLI.hpp>

#include <cstdio>

int main(int argc, char** argv) {
    CLI::App app{"Measures, checks and exports Good Curve parts."};
    app.require_subcommand(1);
    gc::cli::Options options;
    int exitCode = 0;
    auto add = [&](const char* name, const char* help, int (*run)(const gc::cli::Options&)) {
        CLI::App* command = app.add_subcommand(name, help);
        command->add_option("file", options.file, "a .goodcurve part")->required();
        command->add_flag(
            "--guard,!--no-guard", options.guard,
            "run the kernel in a process of its own, so that a crash is only an error (as it is "
            "unless you say otherwise)");
        command->callback([&exitCode, &options, run] { exitCode = run(options); });
        return command;
    };
    add("check", "print the proof board; exit 1 when a target fails", gc::cli::check)
        ->add_flag("--json", options.json, "print JSON");
    add("measure", "print mass, volume, wall and fill", gc::cli::measure)
        ->add_flag("--json", options.json, "print JSON");
    CLI::App* write = add("export", "write the bodies to a STEP, 3MF or STL file", gc::cli::exportPart);
    write->add_option("--to", options.to, "the file to write: .step, .3mf, .stl, .glb or .obj")->required();
    write->add_flag("--even-if-steps-fail", options.evenIfStepsFail,
                    "write the part without what failing steps would have made");
    write->add_flag("--to-bookmark", options.toBookmark,
                    "write the part as it is at the sheet's bookmark, not the whole of it");
    write->add_option("--body", options.bodies,
                      "a body by its name, instead of all; may be said several times");
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? 0 : 2;
    }
    return exitCode;
}
