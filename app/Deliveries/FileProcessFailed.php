<?php

declare(strict_types=1);

namespace App\Deliveries;

final class FileProcessFailed extends \RuntimeException
{
    private function __construct(public readonly int $exit, string $message)
    {
        parent::__construct($message);
    }

    public static function use(string $message): self
    {
        return new self(2, $message);
    }

    public static function recipe(string $message): self
    {
        return new self(4, $message);
    }

    public static function following(string $message): self
    {
        return new self(5, $message);
    }

    public static function stopped(): self
    {
        return new self(130, 'It was stopped. Nothing is left behind.');
    }

    public static function rendering(string $message): self
    {
        return new self(6, $message);
    }
}
