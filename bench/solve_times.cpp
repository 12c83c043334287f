#include <chrono>
#include <cstdio>

#include "io/project_file.h"
#include "solve/solve.h"

using namespace rubble;

/// How fast a puzzle by cells is solved, and how large a state is.
int main(int count, char** words) {
    if (count < 2) {
        std::fprintf(stderr, "usage: solve_times LEVEL [MOST_STATES]\n");
        return 2;
    }
    const auto loaded = io::load_level_with_project(words[1]);
    const auto puzzle = loaded ? motion::puzzle_of(loaded->level) : tl::unexpected(loaded.error());
    if (!puzzle) {
        std::fprintf(stderr, "%s\n", puzzle.error().text().c_str());
        return 2;
    }
    solve::SolveOptions options;
    if (count > 2) options.most_states = size_t(std::atoll(words[2]));
    using Clock = std::chrono::steady_clock;
    const auto begin = Clock::now();
    options.on_solution = [&](const solve::Answer& known) {
        std::printf("a solution of %d steps and %d pushes after %.3f s\n", known.steps(), known.pushes,
                    std::chrono::duration<double>(Clock::now() - begin).count());
    };
    const solve::Answer answer = solve::solved(*puzzle, options);
    const double seconds = std::chrono::duration<double>(Clock::now() - begin).count();
    std::printf("%zu states in %.3f s: %.2f million a second%s\n", answer.states, seconds,
                double(answer.states) / seconds / 1e6, answer.complete ? "" : ", not all");
    if (answer.solvable)
        std::printf("solvable: %d, %d steps, %d pushes, %zu ruins\n", int(*answer.solvable), answer.steps(),
                    answer.pushes, answer.ruins.size());
    return 0;
}
