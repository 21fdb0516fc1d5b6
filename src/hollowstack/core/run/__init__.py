"""The whole way: one page, many pages, single steps, the command line."""
