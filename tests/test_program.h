#pragma once

#include <functional>
#include <memory>
#include <vector>

#include <QObject>

namespace rubble::test {

/// A class of tests within the program of its folder.
struct TestClass {
    const char* name;
    std::function<std::unique_ptr<QObject>()> make;
};

/// All classes of this program, in the order in which they were found.
std::vector<TestClass>& test_classes();

/// Runs the classes named first among the arguments, or all; what follows is for Qt Test. 0 when all passed.
int run_test_classes(int argc, char** argv);

inline bool add_test_class(TestClass test) {
    test_classes().push_back(std::move(test));
    return true;
}

} // namespace rubble::test

/// Makes a class of tests part of the program of its folder.
#define RUBBLE_TEST(Class)                                                                                   \
    namespace {                                                                                              \
    [[maybe_unused]] const bool added_##Class =                                                              \
        rubble::test::add_test_class({#Class, [] { return std::make_unique<Class>(); }});                    \
    }
