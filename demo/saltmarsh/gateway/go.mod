module example.org/saltmarsh/gateway

go 1.19
