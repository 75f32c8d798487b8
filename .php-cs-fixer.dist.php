<?php

declare(strict_types=1);

return (new PhpCsFixer\Config())
    ->setParallelConfig(PhpCsFixer\Runner\Parallel\ParallelConfigFactory::detect())
    ->setRiskyAllowed(true)
    ->setRules([
        '@PER-CS' => true,
        'declare_strict_types' => true,
        'no_unused_imports' => true,
        'ordered_imports' => true,
        'single_quote' => true,
        'trailing_comma_in_multiline' => true,
        'strict_comparison' => false,
        'static_lambda' => true,
        'blank_line_before_statement' => ['statements' => ['return']],
        'phpdoc_align' => false,
    ])
    ->setFinder(PhpCsFixer\Finder::create()->in(['core/src', 'core/tests', 'app', 'config', 'database', 'routes', 'public', 'measuring', 'tests']));
