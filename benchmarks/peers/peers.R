# The same log through R's data.table, two threads.
suppressMessages(library(data.table))
setDTthreads(2)
path <- commandArgs(trailingOnly = TRUE)[1]
best <- min(sapply(1:5, function(i) system.time(rows <<- nrow(fread(path, showProgress = FALSE)))[["elapsed"]]))
cat(sprintf("fread    %d rows of 3 columns in %.3f s\n", rows, best))
