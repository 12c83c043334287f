#include "test_program.h"

#include <cstdio>
#include <cstring>

#include <QtTest/QtTest>

namespace rubble::test {

std::vector<TestClass>& test_classes() {
    static std::vector<TestClass> classes;
    return classes;
}

int run_test_classes(int argc, char** argv) {
    std::vector<char*> rest{argv[0]};
    std::vector<const TestClass*> wanted;
    for (int i = 1; i < argc; ++i) {
        const size_t before = wanted.size();
        for (const TestClass& test : test_classes())
            if (rest.size() == 1 && std::strcmp(argv[i], test.name) == 0) wanted.push_back(&test);
        if (wanted.size() == before) rest.push_back(argv[i]);
    }
    if (wanted.empty())
        for (const TestClass& test : test_classes()) wanted.push_back(&test);
    int failed = 0;
    for (const TestClass* test : wanted)
        failed += QTest::qExec(test->make().get(), int(rest.size()), rest.data());
    return failed;
}

} // namespace rubble::test
